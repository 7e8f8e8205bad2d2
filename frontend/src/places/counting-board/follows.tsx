/** How a share moves with what the offer gives: in proportion, or as it is said at one or two depths more. */
import type { Forecast, Response } from "../../api/types";
import { followed, MOST, type Following } from "../../offers/responses";
import { rate } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";

/** Besides the depth it was said at. */
const MOST_ALSO = 2;

interface Props {
  response: Response;
  figure: Following;
  figures: Forecast["offers"][number];
  value: number;
  set: (part: Partial<Response>) => void;
}

export function Follows({ response, figure, figures, value, set }: Props) {
  const { depth_bp: depth, also_at: also } = response;
  if (!depth || value === 0) return null;
  const times = followed(response, figure, figures.depth_bp);
  const mine = also.filter((one) => one.of === figure);
  const put = (old: (typeof also)[number], next: (typeof also)[number] | null) => set({ also_at: also.flatMap((one) => (one !== old ? [one] : next ? [next] : [])) });
  const taken = [depth, ...mine.map((one) => one.depth_bp)];
  const another = Math.min(Math.round((Math.max(...taken) * 1.5) / 100) * 100, 10_000);
  return (
    <div className="grid gap-1 text-small text-soft">
      {Math.abs(times - 1) >= 0.01 && (
        <p>
          Said when it gave away {rate(depth)} of goods. Now that is {rate(figures.depth_bp)}, so it counts as {rate(Math.round(value * times))}.{" "}
          <button type="button" className="quiet" onClick={() => set({ depth_bp: null, also_at: [] })}>
            Let it stay as said
          </button>
        </p>
      )}
      {mine.map((one) => (
        <div key={one.depth_bp} className="flex flex-wrap items-end gap-3 text-ink">
          <NumberBox label="Where it gives away" value={one.depth_bp} scale={100} step={100} least={1} most={10_000} unit="%" width="4.5rem" onChange={(depth_bp) => !taken.includes(depth_bp) && put(one, { ...one, depth_bp })} />
          <NumberBox label="it is" value={one.value_bp} scale={100} step={100} least={0} most={MOST[figure]} unit="%" width="4.5rem" onChange={(value_bp) => put(one, { ...one, value_bp })} />
          <button type="button" className="quiet" onClick={() => put(one, null)}>
            Take it out
          </button>
        </div>
      ))}
      {mine.length < MOST_ALSO && !taken.includes(another) && (
        <button type="button" className="quiet justify-self-start" onClick={() => set({ also_at: [...also, { of: figure, depth_bp: another, value_bp: Math.min(value, MOST[figure]) }] })}>
          Say it for another depth too
        </button>
      )}
    </div>
  );
}
