/** A better plan: which figures may move and what must hold; a search; and the plans that keep most for what they give away. */
import { Dialog } from "radix-ui";
import { useState, type ReactNode } from "react";

import { useLongSearch } from "../../api/long-search";
import type { BetterBody, BetterFound, BetterLine, Frame, Judged, Plan } from "../../api/types";
import { count, soMany, inAHundred, money, share } from "../../pieces/figures";
import { NumberBox } from "../../pieces/number-box";
import { nameOfOffer } from "../../pieces/offer-names";
import { Choices } from "../../pieces/words";
import { valuesAround } from "../../offers/curve";
import { Differing } from "../../offers/differing-words";
import { Frontier } from "./frontier";
import { placed, useNumbers } from "../../offers/map-of-two";
import type { Figure } from "../../offers/part";

type Must = NonNullable<BetterBody["must"]>;
type Tried = Extract<BetterLine, { kind: "tried" }>;

const NO_MUST: Must = { given_most: null, margin_least_bp: null, offers_most: null, lasts: false };
const MOST_MOVES = 6;
const NOTHING_TRIED: Tried = { kind: "tried", share: 0, tried: 0, best: null };

interface Props {
  plan: Plan;
  frame: Frame;
  sound: boolean;
  change: (make: (plan: Plan) => Plan) => void;
  add: (plan: Plan) => Promise<void>;
}

export function BetterPlan({ plan, frame, sound, change, add }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="quiet text-small" disabled={!sound}>
        A better plan…
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content className="slip fixed top-8 left-1/2 z-50 max-h-[92vh] w-[60rem] max-w-[96vw] -translate-x-1/2 overflow-y-auto" aria-describedby={undefined}>
          <Search {...{ plan, frame, change, add }} close={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** A number of the plan's sentences that may move. */
interface Movable {
  pointers: string[];
  name: string;
  figure: Figure;
}

interface Bounds {
  least: number;
  most: number;
}

/** Numbers that a merchant decides; what shoppers do is expected, and does not move. */
function useMovable(plan: Plan): Movable[] {
  const { known } = useNumbers();
  const [found] = useState(() =>
    [...known.values()].flatMap((one): Movable[] => {
      const { pointers, name } = placed(one, plan);
      return pointers.length === 0 || pointers.some((pointer) => pointer.includes("/response/")) ? [] : [{ pointers, name, figure: one.figure }];
    }),
  );
  return found;
}

function Search({ plan, frame, change, add, close }: Omit<Props, "sound"> & { close: () => void }) {
  const movable = useMovable(plan);
  const [moves, setMoves] = useState<Record<string, Bounds>>({});
  const [slides, setSlides] = useState<string[]>([]);
  const [must, setMust] = useState<Must>(NO_MUST);
  const [best, setBest] = useState<BetterBody["best"]>("likely");
  const search = useLongSearch<BetterBody, Tried, BetterFound>("/better", NOTHING_TRIED);
  const keyOf = (one: Movable) => one.pointers.join(" ");
  const chosen = movable.filter((one) => moves[keyOf(one)]);
  const start = () =>
    search.start({
      plan,
      moves: chosen.map((one) => ({ pointers: one.pointers, step: one.figure.step, ...moves[keyOf(one)]! })),
      slides,
      must,
      best,
    });
  const many = chosen.length + slides.length;
  return (
    <>
      <Dialog.Title className="text-title">A better plan</Dialog.Title>
      <div className="mt-2 grid grid-cols-[minmax(0,1fr)_22rem] gap-x-8 max-[800px]:grid-cols-1">
        <fieldset>
          <legend className="text-small text-soft">What may move{many > MOST_MOVES && `: ${MOST_MOVES} at most`}</legend>
          <div className={`overflow-y-auto ${search.found ? "max-h-60" : "max-h-[52vh]"}`} tabIndex={0} role="group" aria-label="What may move">
          {movable.map((one) => (
            <Move key={keyOf(one)} one={one} bounds={moves[keyOf(one)] ?? null} set={(bounds) => setMoves(({ [keyOf(one)]: _, ...rest }) => (bounds ? { ...rest, [keyOf(one)]: bounds } : rest))} />
          ))}
          {plan.offers.length > 1 &&
            plan.offers.map((offer) => (
              <Tick key={offer.id} ticked={slides.includes(offer.id)} set={(ticked) => setSlides((before) => (ticked ? [...before, offer.id] : before.filter((id) => id !== offer.id)))}>
                {nameOfOffer(plan, offer)} in or out
              </Tick>
            ))}
          {movable.length === 0 && plan.offers.length < 2 && <p>This plan has no number that could move.</p>}
          </div>
        </fieldset>
        <div className="grid content-start gap-3">
          <MustHold {...{ must, setMust, frame }} />
          <div>
            <p className="text-small text-soft">What is best</p>
            <Choices
              label="What is best"
              value={best}
              onChange={setBest}
              options={[
                ["likely", "the likely profit"],
                ["low", "the profit at the low end of its range"],
                ["beats", "the chance to beat today"],
              ]}
            />
          </div>
        </div>
      </div>
      <div className="mt-3 flex min-h-9 items-center gap-4 border-t border-line pt-3">
        {search.progress ? (
          <>
            <button type="button" className="press" onClick={search.stop}>
              Stop
            </button>
            <span role="status" className="flex-1 text-small">
              <progress className="w-full accent-ink" max={1} value={search.progress.share} aria-label="How far the search is" />
              {soMany(search.progress.tried, "plan")} looked at
              {search.progress.best !== null && `, the best keeps ${money(Math.abs(search.progress.best), frame, { whole: true })} ${search.progress.best < 0 ? "less" : "more"} than today`}
            </span>
          </>
        ) : (
          <button type="button" className="press" data-main={!search.found} disabled={many === 0 || many > MOST_MOVES} onClick={start}>
            Search
          </button>
        )}
        {search.failed && (
          <p role="alert" className="text-small text-loss-ink">
            {search.failed}
          </p>
        )}
      </div>
      {search.found && <Found found={search.found} {...{ plan, frame, change, add, close }} />}
    </>
  );
}

const Tick = ({ ticked, set, children }: { ticked: boolean; set: (ticked: boolean) => void; children: ReactNode }) => (
  <label className="choice flex items-center gap-2.5 py-0.5!">
    <input type="checkbox" checked={ticked} onChange={(event) => set(event.target.checked)} />
    <span>{children}</span>
  </label>
);

function Move({ one: { name, figure }, bounds, set }: { one: Movable; bounds: Bounds | null; set: (bounds: Bounds | null) => void }) {
  const box = { scale: figure.scale, step: figure.step, unit: figure.unit, digits: figure.digits, least: figure.least, most: figure.most, width: "5rem" };
  const around = (): Bounds => {
    const values = valuesAround({ ...figure, least: Math.max(figure.least, figure.step) });
    return { least: Math.min(...values), most: Math.max(...values) };
  };
  return (
    <div className="flex flex-wrap items-center gap-x-3">
      <Tick ticked={bounds !== null} set={(ticked) => set(ticked ? around() : null)}>
        {name}, now {figure.tell(figure.value)}
      </Tick>
      {bounds && (
        <span className="flex items-baseline gap-2 ps-9 text-small">
          from <NumberBox {...box} label={`${name}: from`} hideLabel value={bounds.least} onChange={(least) => set({ ...bounds, least })} /> to{" "}
          <NumberBox {...box} label={`${name}: to`} hideLabel value={bounds.most} onChange={(most) => set({ ...bounds, most })} />
        </span>
      )}
    </div>
  );
}

function MustHold({ must, setMust, frame }: { must: Must; setMust: (must: Must) => void; frame: Frame }) {
  const unit = 10 ** frame.minor_digits;
  return (
    <fieldset>
      <legend className="text-small text-soft">What must hold</legend>
      <div className="flex items-center justify-between gap-2">
        <Tick ticked={must.given_most !== null} set={(ticked) => setMust({ ...must, given_most: ticked ? 1_000 * frame.round_amount : null })}>
          given away at most
        </Tick>
        {must.given_most !== null && <NumberBox label="Given away at most" hideLabel value={must.given_most} scale={unit} digits={frame.minor_digits} step={50 * unit} least={0} most={1e9 * unit} unit={frame.currency} onChange={(given_most) => setMust({ ...must, given_most })} />}
      </div>
      <div className="flex items-center justify-between gap-2">
        <Tick ticked={must.margin_least_bp !== null} set={(ticked) => setMust({ ...must, margin_least_bp: ticked ? 2_000 : null })}>
          kept of sales at least
        </Tick>
        {must.margin_least_bp !== null && <NumberBox label="Kept of sales at least" hideLabel value={must.margin_least_bp} scale={100} step={100} least={-10_000} most={10_000} unit="%" onChange={(margin_least_bp) => setMust({ ...must, margin_least_bp })} />}
      </div>
      <div className="flex items-center justify-between gap-2">
        <Tick ticked={must.offers_most !== null} set={(ticked) => setMust({ ...must, offers_most: ticked ? 1 : null })}>
          offers at most
        </Tick>
        {must.offers_most !== null && <NumberBox label="Offers at most" hideLabel value={must.offers_most} scale={1} step={1} least={0} most={80} onChange={(offers_most) => setMust({ ...must, offers_most })} />}
      </div>
      <Tick ticked={must.lasts} set={(lasts) => setMust({ ...must, lasts })}>
        all that is put in lasts
      </Tick>
    </fieldset>
  );
}

function Found({ found, plan, frame, change, add, close }: { found: BetterFound } & Omit<Props, "sound"> & { close: () => void }) {
  const [at, setAt] = useState(0);
  const { base, plans } = found;
  const one = plans[at];
  if (!one)
    return (
      <p className="mt-3" data-testid="better">
        Of {soMany(found.tried, "plan")} none is better than this one{base.holds ? "" : " and holds what must hold"}.
      </p>
    );
  const next = one.plan as Plan;
  return (
    <div className="mt-3" data-testid="better">
      <p className="font-head text-title">
        {plans.length === 1 ? "One plan is better" : `${plans.length} plans are better`}, of {count(found.tried)} looked at.
      </p>
      <Frontier {...{ base, plans, of: frame }} chosen={at} choose={setAt} />
      <Told {...{ one, frame }} />
      <Differing first={plan} second={next} frame={frame} />
      <p className="mt-2 text-small text-soft">Shoppers’ response follows what each offer gives, from what it gives now.</p>
      <p className="mt-3 flex gap-3">
        <button
          type="button"
          className="press"
          data-main="true"
          onClick={() => {
            change((before) => ({ ...before, offers: next.offers }));
            close();
          }}
        >
          Take it over
        </button>
        <button
          type="button"
          className="press"
          onClick={() => {
            close();
            void add({ ...next, name: `${plan.name}, better`.slice(0, 80) });
          }}
        >
          As a plan of its own
        </button>
      </p>
    </div>
  );
}

function Told({ one, frame }: { one: Judged; frame: Frame }) {
  const cash = (amount: number) => `${money(Math.abs(amount), frame, { whole: true })} ${amount < 0 ? "less" : "more"}`;
  return (
    <p>
      It keeps <strong>{cash(one.impact)}</strong> than today, nine times in ten between {cash(one.low)} and {cash(one.high)}, and gives away {money(one.given, frame, { whole: true })}; it keeps {share(one.margin)} of sales, and beats the plan as it stands {inAHundred(one.beats)}.
    </p>
  );
}
