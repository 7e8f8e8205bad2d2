/** The files orders came in; each can be taken back, and brought again. */
import { ask } from "../../api/client";
import { renewAll } from "../../api/queries";
import type { Carts } from "../../api/types";
import { count } from "../../pieces/figures";
import { Heading, Headings } from "../../pieces/headings";
import { useNotice } from "../../pieces/notice";
import { Slip } from "../../pieces/slip";
import { Word } from "../../pieces/words";

type Import = Carts["imports"][number];

const MOMENT = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric", hour: "2-digit", minute: "2-digit" });

export function Imports({ imports }: { imports: Import[] }) {
  const { say, fail } = useNotice();
  if (imports.length === 0) return null;
  const put = async ({ id, file }: Import, live: boolean) => {
    try {
      const carts = await ask<Carts>("PUT", `/imports/${id}`, { live });
      await renewAll();
      const stay = carts.imports.find((one) => one.id === id)?.staying ?? 0;
      say(live ? `${file} counts again.` : `${file} is taken back${stay > 0 ? `; ${count(stay)} of its orders stay, as other files have them, too` : ""}.`);
    } catch (error) {
      fail(error);
    }
  };
  const live = imports.filter((one) => one.live).length;
  const leavesOut = imports.some((one) => one.left_out > 0);
  const tellsFewer = imports.some((one) => one.live && one.fewer > 0);
  const tellsStaying = imports.some((one) => one.staying > 0);
  const tellsRedated = imports.some((one) => one.live && one.redated > 0);
  return (
    <Slip
      title="Files orders came in"
      width={leavesOut || tellsFewer || tellsRedated || tellsStaying ? 720 : 620}
      trigger={<Word>{live === imports.length ? `${count(live)} ${live === 1 ? "file" : "files"}` : `${count(live)} of ${count(imports.length)} files`}</Word>}
    >
      <table className="figures w-full text-small">
        <Headings>
          <Heading>File</Heading>
          <Heading>Brought in</Heading>
          <Heading n>New</Heading>
          <Heading n>Told anew</Heading>
          <Heading n>There already</Heading>
          {tellsStaying && <Heading n>Stay</Heading>}
          {leavesOut && <Heading n>Left out</Heading>}
          {tellsFewer && <Heading n>Fewer units</Heading>}
          {tellsRedated && <Heading n>Another day</Heading>}
          <Heading unseen>Take back</Heading>
        </Headings>
        <tbody>
          {imports.map((one) => (
            <tr key={one.id} className={one.live ? "" : "text-soft"}>
              <th scope="row" className="max-w-44 truncate" title={one.file}>
                {one.file}
              </th>
              <td>{MOMENT.format(new Date(one.at))}</td>
              <td className="n">{count(one.new)}</td>
              <td className="n">{count(one.changed)}</td>
              <td className="n">{count(one.unchanged)}</td>
              {tellsStaying && <td className="n">{one.live ? "" : count(one.staying)}</td>}
              {leavesOut && <td className="n">{count(one.left_out)}</td>}
              {tellsFewer && <td className="n">{count(one.fewer)}</td>}
              {tellsRedated && <td className="n">{count(one.redated)}</td>}
              <td className="ps-4! whitespace-nowrap">
                <button type="button" className="quiet" onClick={() => void put(one, !one.live)}>
                  {one.live ? "Take back" : "Bring again"}
                  <span className="sr-only"> {one.file}</span>
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-small text-soft">
        What is taken back counts nowhere; an order it told anew reads as it did before, and one that another file has just the same stays.
        {tellsFewer && " Orders with fewer units than before may come from a file of some goods alone: take that one back."}
        {tellsRedated && " Orders that were of another day before may be others with the same numbers, as of a second channel: take that file back, put a letter before its numbers, and bring it in again."}
      </p>
    </Slip>
  );
}
