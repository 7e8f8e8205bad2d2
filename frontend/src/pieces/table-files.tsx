/** A place's tables as files: what the shop has, and a template to fill in, as CSV or XLSX. */
import { Slip } from "./slip";

export type TableKind = "goods" | "tariffs" | "charges" | "surcharges";

/** What an empty place has to begin with: an example to look at, and a template to fill in. */
export function Starters({ kind }: { kind: Exclude<TableKind, "surcharges"> }) {
  return (
    <>
      <a className="quiet" href={`/examples/${kind}.csv`} download>
        Example file
      </a>
      <a className="quiet" href={`/api/templates/${kind}.xlsx`} download>
        Template
      </a>
    </>
  );
}

export function TableFiles({ kinds }: { kinds: [TableKind, string][] }) {
  return (
    <Slip title="Files to download" width={330} trigger={<button type="button" className="quiet">Files</button>}>
      <table className="figures w-full text-small">
        <tbody>
          {kinds.map(([kind, words]) => (
            <tr key={kind}>
              <th scope="row" className="text-ink!">{words}</th>
              {(["tables", "templates"] as const).map((what) => (
                <td key={what}>
                  {what === "tables" ? "yours " : "template "}
                  {(["csv", "xlsx"] as const).map((ending) => (
                    <a key={ending} className="quiet me-1.5" href={`/api/${what}/${kind}.${ending}`} download aria-label={`${what === "tables" ? "Your" : "A template for"} ${words.toLowerCase()} as ${ending.toUpperCase()}`}>
                      {ending.toUpperCase()}
                    </a>
                  ))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-small text-soft">What you download reads back just so, with nothing changed.</p>
    </Slip>
  );
}
