/** Asking the server. Every error comes back as one kind, with the fields at fault. */
import type { FieldProblem, Problem } from "./types";

export class ApiError extends Error {
  readonly status: number;
  readonly title: string;
  readonly fields: FieldProblem[];

  constructor(problem: Problem) {
    super(problem.detail);
    this.status = problem.status;
    this.title = problem.title;
    this.fields = problem.errors;
  }
}

const UNREACHABLE: Problem = {
  type: "about:blank",
  title: "No answer",
  status: 0,
  detail: "The server does not answer. Is it still running? Nothing you typed is lost while this page stays open.",
  errors: [],
};

/** What an answer that is none says is wrong. */
async function refusalOf(response: Response): Promise<ApiError> {
  const told = (await response.json().catch(() => null)) as Problem | null;
  return new ApiError(told ?? { ...UNREACHABLE, status: response.status });
}

/** This window, so that what it asks anew drops what it asked before. */
const BOARD = Math.random().toString(36).slice(2);
let asked = 0;

/** An answer that comes line by line, each a JSON document. Ends where `signal` aborts. body: null to ask by GET. */
export async function* askLines<Line>(path: string, body: unknown, signal: AbortSignal): AsyncGenerator<Line> {
  asked += 1;
  const headers = { Board: BOARD, Asked: String(asked), "Content-Type": "application/json" };
  const response = await fetch(`/api${path}`, body === null ? { signal, headers } : { method: "POST", signal, headers, body: JSON.stringify(body) });
  if (!response.ok || !response.body) throw await refusalOf(response);
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return;
    const lines = (rest + value).split("\n");
    rest = lines.pop()!;
    for (const line of lines) yield JSON.parse(line) as Line;
  }
}

export async function ask<Answer>(
  method: "GET" | "POST" | "PUT" | "DELETE",
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<Answer> {
  const sendsForm = body instanceof FormData;
  // Requests may overtake each other: the number says which was asked first.
  const board = { Board: BOARD, Asked: String((asked += 1)) };
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      signal,
      headers: body === undefined || sendsForm ? board : { ...board, "Content-Type": "application/json" },
      body: body === undefined ? undefined : sendsForm ? body : JSON.stringify(body),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiError(UNREACHABLE);
  }
  if (response.status === 204) return undefined as Answer;
  if (!response.ok) throw await refusalOf(response);
  try {
    return (await response.json()) as Answer;
  } catch (error) {
    if (signal?.aborted) throw error; // called off half read, it is no answer
    throw new ApiError(UNREACHABLE);
  }
}
