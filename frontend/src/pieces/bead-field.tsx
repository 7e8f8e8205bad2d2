/** Two numbers at once, as a field of beads: larger the more a pair of values keeps, notched where that is a loss. */
import { money, type Currency } from "./figures";
import { Heading, Headings } from "./headings";

const CELL = { width: 50, height: 38 };
const LEFT = 92;
const BIGGEST = 15;

/** One of the two numbers: the value it has now, and how values of it are told. */
export interface Axis {
  value: number;
  tell: (value: number) => string;
}

export interface Cell {
  row: number;
  column: number;
  impact: number | null;
}

interface FieldProps {
  columns: number[];
  rows: number[];
  cells: Cell[];
  across: Axis;
  up: Axis;
}

interface DrawnProps extends FieldProps {
  label: string;
  best: { row: number; column: number } | null;
  /** Where a dotted line is drawn beside the one at 0; null for none. */
  level: number | null;
  /** What a pair of values keeps, in words. */
  tell: (impact: number) => string;
  take?: (column: number, row: number) => void;
}

/** Borders between cells on the two sides of a level. */
export function borders(cells: Cell[], columns: number[], rows: number[], level: number): [x: number, y: number, isUpright: boolean][] {
  const above = new Map(cells.map((one) => [`${one.row} ${one.column}`, one.impact === null ? null : one.impact >= level]));
  const at = (row: number, column: number) => above.get(`${rows[row]} ${columns[column]}`) ?? null;
  const found: [number, number, boolean][] = [];
  rows.forEach((_, row) =>
    columns.forEach((__, column) => {
      const here = at(row, column);
      if (here === null) return;
      const [right, over] = [column + 1 < columns.length ? at(row, column + 1) : null, row + 1 < rows.length ? at(row + 1, column) : null];
      if (right !== null && right !== here) found.push([column + 1, row, true]);
      if (over !== null && over !== here) found.push([column, row + 1, false]);
    }),
  );
  return found;
}

export function BeadField({ columns, rows, cells, across, up, label, best, level, tell, take }: DrawnProps) {
  const largest = Math.max(...cells.map((one) => Math.abs(one.impact ?? 0)), 1);
  const [width, height] = [LEFT + columns.length * CELL.width, rows.length * CELL.height + 26];
  const x = (column: number) => LEFT + column * CELL.width;
  const y = (row: number) => (rows.length - row) * CELL.height;
  const line = (of: number, dashes?: string) =>
    borders(cells, columns, rows, of).map(([column, row, isUpright]) => (
      <line
        key={`${column} ${row} ${isUpright}`}
        x1={x(column)}
        x2={isUpright ? x(column) : x(column + 1)}
        y1={y(row)}
        y2={isUpright ? y(row + 1) : y(row)}
        stroke="var(--color-ink)"
        strokeWidth={2.4}
        strokeDasharray={dashes}
      />
    ));
  return (
    <svg width="100%" viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label} className="mt-3">
      {cells.map((one) => {
        const [cx, cy] = [x(columns.indexOf(one.column)) + CELL.width / 2, y(rows.indexOf(one.row)) - CELL.height / 2];
        const r = one.impact === null ? 0 : Math.max(BIGGEST * Math.sqrt(Math.abs(one.impact) / largest), 2.5);
        const isNow = one.column === across.value && one.row === up.value;
        const isBest = best?.row === one.row && best.column === one.column;
        return (
          <g key={`${one.row} ${one.column}`} className={take && "cursor-pointer"} onClick={take && (() => take(one.column, one.row))}>
            <title>{`${across.tell(one.column)}, ${up.tell(one.row)}: ${one.impact === null ? "makes no sense" : tell(one.impact)}`}</title>
            <rect x={cx - CELL.width / 2} y={cy - CELL.height / 2} width={CELL.width} height={CELL.height} fill="transparent" stroke="var(--color-line)" strokeWidth={0.6} />
            {isNow && <rect x={cx - CELL.width / 2 + 2} y={cy - CELL.height / 2 + 2} width={CELL.width - 4} height={CELL.height - 4} rx={6} fill="none" stroke="var(--color-ink)" strokeWidth={1.6} strokeDasharray="3 2" />}
            {one.impact !== null && <circle cx={cx} cy={cy} r={r} fill={one.impact < 0 ? "var(--color-loss)" : "var(--color-yellow)"} stroke="var(--color-ink)" strokeWidth={isBest ? 3 : 1.1} />}
            {one.impact !== null && one.impact < 0 && r > 5 && <path d={`M${cx - 4} ${cy - r + 0.5}l4 4l4 -4z`} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth={0.9} />}
          </g>
        );
      })}
      {line(0)}
      {level !== null && line(level, "2 3")}
      {rows.map((value, row) => (
        <text key={value} x={LEFT - 8} y={y(row) - CELL.height / 2 + 4} textAnchor="end" fontSize={11.5} fontWeight={value === up.value ? 700 : 400} fill="var(--color-ink)">
          {up.tell(value)}
        </text>
      ))}
      {columns.map((value, column) => (
        <text key={value} x={x(column) + CELL.width / 2} y={height - 8} textAnchor="middle" fontSize={11.5} fontWeight={value === across.value ? 700 : 400} fill="var(--color-ink)">
          {across.tell(value)}
        </text>
      ))}
    </svg>
  );
}

export function FieldTable({ columns, rows, cells, across, up, of }: FieldProps & { of: Currency }) {
  return (
    <div className="mt-3 overflow-x-auto" tabIndex={0}>
      <table className="figures text-small">
        <Headings>
          <td />
          {columns.map((value) => <Heading key={value} n>{across.tell(value)}</Heading>)}
        </Headings>
        <tbody>
          {rows.toReversed().map((row) => (
            <tr key={row}>
              <th scope="row">{up.tell(row)}</th>
              {columns.map((column) => {
                const impact = cells.find((one) => one.row === row && one.column === column)?.impact ?? null;
                return (
                  <td key={column} className="n">
                    {impact === null ? "–" : money(impact, of, { whole: true, signed: true })}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
