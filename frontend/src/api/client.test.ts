import { afterEach, expect, test, vi } from "vitest";

import { ApiError, ask } from "./client";

afterEach(() => vi.unstubAllGlobals());

/** An answer whose headers are there and whose body breaks off. */
function breaksOff(before: () => void = () => undefined) {
  const body = new ReadableStream({
    pull(controller) {
      before();
      controller.error(new DOMException("The body broke off.", "AbortError"));
    },
  });
  vi.stubGlobal("fetch", () => Promise.resolve(new Response(body, { status: 200 })));
}

test("what is called off while its answer is read is no answer", async () => {
  const asked = new AbortController();
  breaksOff(() => asked.abort());
  await expect(ask("POST", "/forecast", {}, asked.signal)).rejects.toThrow("broke off");
});

test("an answer that breaks off by itself is told as a server that does not answer", async () => {
  breaksOff();
  await expect(ask("GET", "/frame")).rejects.toBeInstanceOf(ApiError);
});
