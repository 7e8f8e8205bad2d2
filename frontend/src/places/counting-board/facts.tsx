/** What an offer comes to: whom it reaches, what it gives away and would need, and how long its limits last. */
import type { Forecast, Frame, Ranging } from "../../api/types";
import { count, soMany, money, share } from "../../pieces/figures";
import { Slip } from "../../pieces/slip";

type OfferFigures = Forecast["offers"][number];

const whole = (amount: number, frame: Frame) => money(amount, frame, { whole: Math.abs(amount) >= 100 * 10 ** frame.minor_digits });
const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", timeZone: "UTC" });

interface FactsProps {
  figures: OfferFigures;
  ends: Forecast["ends"];
  adds: number | null;
  ifEverybody: number | null;
  frame: Frame;
}

export function Facts({ figures, ends, adds, ifEverybody, frame }: FactsProps) {
  const { reached, topped_up, given_away, later } = figures;
  const needs = figures.break_evens.find((one) => one.figure === "extra_bp");
  if (reached === 0 && figures.uses === 0) return <p className="text-small text-soft">No order earns it.</p>;
  const even = needs && {
    at_least: `even at ${share(needs.value ?? 0)} more`,
    at_most: `even up to ${share(needs.value ?? 0)} more`,
    never: "more of them never make it even",
    always: "even without more",
    no_matter: "more of them change nothing",
  }[needs.verdict];
  const others = figures.break_evens.filter((one) => one.figure !== "extra_bp" && one.figure !== "extra_first_bp");
  return (
    <p className="text-small text-soft">
      Reaches {soMany(reached, "order", reached < 10 ? 1 : 0)}{topped_up > 0.05 && `, ${count(topped_up, topped_up < 10 ? 1 : 0)} more topped up`} · gives away {whole(given_away, frame)} · {even}
      {adds !== null && (
        <>
          {" · "}
          <span className={adds < 0 ? "text-loss-ink" : "text-ink"}>{adds === 0 ? "without it all stays the same" : `without it ${whole(Math.abs(adds), frame)} ${adds < 0 ? "more" : "less"} is kept`}</span>
        </>
      )}
      {ifEverybody !== null && (
        <>
          {" · "}
          <span className={ifEverybody < 0 ? "text-loss-ink" : ""}>if everybody had the code, the plan keeps {whole(Math.abs(ifEverybody), frame)} {ifEverybody < 0 ? "less" : "more"} than today</span>
        </>
      )}
      {others.length > 0 && (
        <>
          {" · "}
          <Slip title="What it would take to break even" width={380} trigger={<button type="button" className="quiet">the other figures</button>}>
            <ul className="grid gap-1 text-small">
              {others.map((one) => (
                <li key={one.figure}>
                  <b>{SUBJECTS[one.figure]}</b>: {EVEN[one.verdict](share(one.value ?? 0))}
                </li>
              ))}
            </ul>
            <p className="mt-2 text-small text-soft">Each by itself, all else as expected.</p>
          </Slip>
        </>
      )}
      {later > 0 && <> · new shoppers keep {whole(later, frame)} later, counted nowhere</>}
      {ends.map((one) => (
        <span key={`${one.of} ${one.sku}`} className={one.day ? "text-ink" : ""}>
          {" · "}
          {one.day ? `${ENDS[one.of](one, frame)} on ${DAY.format(new Date(one.day))}` : `${LASTS[one.of](one, frame)}`}
        </span>
      ))}
    </p>
  );
}

type End = Forecast["ends"][number];

const ENDS: Record<End["of"], (one: End, frame: Frame) => string> = {
  uses: (one) => `its ${soMany(one.most, "use")} ${one.most === 1 ? "ends" : "end"}`,
  spending: (one, frame) => `its ${whole(one.most, frame)} are given away`,
  stock: (one) => `${one.sku} runs out, all ${count(one.most)},`,
};

const LASTS: Record<End["of"], (one: End, frame: Frame) => string> = {
  uses: (one) => `${count(one.used)} of ${soMany(one.most, "use")}`,
  spending: (one, frame) => `${whole(one.used, frame)} of ${whole(one.most, frame)} given`,
  stock: (one) => `${count(one.used)} of ${count(one.most)} ${one.sku} needed`,
};

const SUBJECTS: Record<Ranging, string> = {
  uptake_bp: "Shoppers who hold the code",
  uptake_first_bp: "First-time shoppers who hold it",
  take_up_bp: "Shoppers who take it",
  top_up_bp: "Shoppers near it who top up",
  extra_bp: "More orders",
  extra_first_bp: "More first orders",
  borrowed_bp: "Orders that only come sooner",
  send_response_bp: "Who answer the message",
  shift_bp: "Those who go by the option it frees",
  switched_bp: "Goods bought in place of others",
};

const EVEN: Record<OfferFigures["break_evens"][number]["verdict"], (value: string) => string> = {
  at_least: (value) => `${value} or more would break even`,
  at_most: (value) => `${value} at most would break even`,
  never: () => "no share would break even",
  always: () => "any share breaks even",
  no_matter: () => "makes no difference",
};
