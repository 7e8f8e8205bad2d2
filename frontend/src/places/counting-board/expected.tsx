/** Below an offer: how shoppers are expected to respond, as sentences too, and what the offer comes to. */
import { DropdownMenu } from "radix-ui";
import { Fragment, useEffect, useRef, type ReactNode } from "react";

import { useNames } from "../../api/queries";
import type { FieldProblem, Forecast, Frame, OfferDoc, Plan, Ranging, Response, Sends } from "../../api/types";
import { count, kilograms, money, rate } from "../../pieces/figures";
import { daysBetween } from "../../pieces/iso-days";
import { RangeRod } from "../../pieces/range-rod";
import { scopeInWords, ScopeWord } from "../../pieces/scope-word";
import { shoppersInWords, WhoseChoice } from "../../pieces/whose";
import { Choices, Faults, spot, Word } from "../../pieces/words";
import { Slip } from "../../pieces/slip";
import { NumberWord } from "../../offers/number-word";
import { Follows } from "./follows";
import { HistoryHint } from "./history-hint";
import { allRewards, isDelivery, withOffer, withTerms } from "../../offers/offers";
import { firstRange, isFollowing, MORE_TO_SAY, MOST, rangeOf, saidAt, toppedUp, withRange } from "../../offers/responses";

type OfferFigures = Forecast["offers"][number];

interface ExpectedProps {
  offer: OfferDoc;
  plan: Plan;
  frame: Frame;
  figures: OfferFigures | null;
  /** Whether the figures are of the plan as it is typed. */
  fresh: boolean;
  problems: FieldProblem[];
  change: (make: (plan: Plan) => Plan) => void;
}

/** Basis points: as much comes back as without the offer. */
const AS_MUCH = 10_000;

const SHOWN = { to_few: "told to few", to_all: "shown to all" } as const;
const SHOWN_LONG: Record<Response["shown"], string> = { to_few: "Told to few, as in a letter", to_all: "Shown to everybody, as on the front page", "": "Not said" };

const LABELS: Partial<Record<Ranging, string>> = { uptake_bp: "Share of shoppers", extra_bp: "Extra orders", extra_first_bp: "Extra first orders" };

export function Expected({ offer, plan, frame, figures, fresh, problems, change }: ExpectedProps) {
  const { response, given } = offer.terms;
  const { sends } = response;
  const { data: goods } = useNames();
  const unit = 10 ** frame.minor_digits;
  const cash = (amount: number) => money(amount, frame, { whole: amount % unit === 0 });
  const put = (make: (response: Response) => Response) => (before: Plan) =>
    withTerms(before, offer.id, (t) => ({ ...t, response: make(t.response) }));
  const set = (part: Partial<Response>) => change(put((r) => ({ ...r, ...part })));

  // What the offer gives while a figure is said is known once the answer is of the plan as it is typed: noted then.
  const depth = fresh && figures && figures.depth_bp > 0 ? figures.depth_bp : null;
  const owed = useRef(false);
  useEffect(() => {
    if (!owed.current || depth === null) return;
    owed.current = false;
    change((before) => withTerms(before, offer.id, (t) => ({ ...t, response: saidAt(t.response, depth) })));
  }, [depth, offer.id, change]);

  /** A share, with its range and the depth it was said at. */
  const rated = (figure: Ranging, title: string, text: string, otherwise = 0, unsay: Partial<Response> | null = { [figure]: null }): ReactNode => {
    const value = figure === "send_response_bp" ? (sends?.response_bp ?? 0) : (response[figure] ?? otherwise);
    const follows = isFollowing(figure);
    const make = (next: number) =>
      put((r) => {
        const told = figure === "send_response_bp" ? { ...r, sends: r.sends && { ...r.sends, response_bp: next } } : { ...r, [figure]: next };
        const said = follows && depth !== null ? saidAt(told, depth) : told;
        return withRange(said, figure, next, rangeOf(r, figure));
      });
    const say = (next: (before: Plan) => Plan) => {
      owed.current ||= follows && depth === null;
      change(next);
    };
    const isSaid = figure === "send_response_bp" || response[figure] !== null;
    const range = rangeOf(response, figure);
    return (
      <NumberWord
        title={title}
        currency={frame}
        unsound={spot(`/response/${figure}`, problems.filter((one) => one.pointer === `/response/${figure}`))}
        figure={{
          label: LABELS[figure] ?? "Share",
          value,
          scale: 100,
          step: 100,
          least: 0,
          most: MOST[figure],
          unit: "%",
          tell: rate,
          set: (next: number) => say(make(next)),
          withValue: (next: number) => make(next)(plan),
        }}
        more={
          (isSaid || frame.past > 0) && (
            <>
              {isSaid && range ? (
                <RangeRod
                  label={title}
                  values={[range[0], value, range[1]]}
                  most={MOST[figure]}
                  onChange={([low, likely, high]) =>
                    likely === value
                      ? change(put((r) => withRange(r, figure, likely, [low, high])))
                      : say((before) => put((r) => withRange(r, figure, likely, [low, high]))(make(likely)(before)))
                  }
                />
              ) : null}
              {isSaid && follows && figures && <Follows {...{ response, figure, figures, value, set }} />}
              {isSaid && (
                <span className="flex flex-wrap gap-x-4 gap-y-1 text-small">
                  <button type="button" className="quiet" onClick={() => change(put((r) => withRange(r, figure, value, range ? null : firstRange(value, figure))))}>
                    {range ? "One figure, no range" : "Say how sure you are"}
                  </button>
                  {unsay && (
                    <button type="button" className="quiet" onClick={() => change(put((r) => withRange({ ...r, ...unsay, also_at: r.also_at.filter((one) => one.of !== figure) }, figure, null, null)))}>
                      Leave it unsaid again
                    </button>
                  )}
                </span>
              )}
              <HistoryHint {...{ figure, offer, frame }} days={daysBetween(plan.first_day, plan.last_day) + 1} take={(one) => change((before) => withOffer(before, offer.id, one))} />
            </>
          )
        }
      >
        {range ? `${text}, ${rate(range[0])} to ${rate(range[1])}` : text}
      </NumberWord>
    );
  };

  /** An amount or a count. */
  const plain = (
    path: string,
    title: string,
    value: number,
    as: { unit: string; scale: number; step: number; least: number; most: number; tell: (value: number) => string },
    make: (next: number) => (response: Response) => Response,
    text = as.tell(value),
    unsay: Partial<Response> | null = null,
  ): ReactNode => (
    <NumberWord
      title={title}
      currency={frame}
      unsound={spot(`/response/${path}`, problems.filter((one) => one.pointer === `/response/${path}`))}
      figure={{
        ...as,
        label: title,
        value,
        set: (next: number) => change(put(make(next))),
        withValue: (next: number) => put(make(next))(plan),
      }}
      more={
        unsay && (
          <button type="button" className="quiet justify-self-start text-small" onClick={() => set(unsay)}>
            Take it out
          </button>
        )
      }
    >
      {text}
    </NumberWord>
  );
  const inMoney = { unit: frame.currency, scale: unit, step: unit, least: 0, most: 100_000_000, tell: cash, digits: frame.minor_digits };
  const inCount = (what: string) => ({ unit: what, scale: 1, step: 1, least: 1, most: 10_000_000, tell: (n: number) => count(n) });
  const ofSends = (part: (next: number) => Partial<Sends>) => (next: number) => (r: Response) => ({ ...r, sends: r.sends && { ...r.sends, ...part(next) } });

  const reachAs = {
    spend: { ...inMoney, least: 1, tell: cash },
    units: { ...inCount("units"), tell: (n: number) => `${count(n)} ${n === 1 ? "unit" : "units"}` },
    weight: { ...inCount("g"), scale: 1, step: 100, tell: kilograms },
    products: { ...inCount("products"), tell: (n: number) => `${count(n)} ${n === 1 ? "product" : "products"}` },
  }[toppedUp(offer.terms) ?? "spend"];

  const said: ReactNode[] = [];
  if (given.by !== "itself" && response.uptake_bp !== null)
    said.push(
      <>
        You expect {rated("uptake_bp", "How many shoppers hold the code", `${rate(response.uptake_bp)} of shoppers`, 10_000)} to hold the code
        {response.uptake_first_bp !== null && <>, {rated("uptake_first_bp", "How many first-time shoppers hold it", `${rate(response.uptake_first_bp)} of first-time ones`)}</>}.
      </>,
    );
  if (given.by !== "itself" && response.shown !== "" && sends === null)
    said.push(
      <>
        The code is{" "}
        <Slip title="Who is told of the code" trigger={<Word>{SHOWN[response.shown]}</Word>}>
          <Choices label="Who is told of the code" value={response.shown} onChange={(shown) => set({ shown })} options={Object.entries(SHOWN_LONG) as [Response["shown"], string][]} />
        </Slip>
        .
      </>,
    );
  if (response.take_up_bp !== null) said.push(<>{rated("take_up_bp", "How many take what it gives", `${rate(response.take_up_bp)} take it`)}.</>);
  if (response.top_up_bp !== null)
    said.push(
      <>
        {rated("top_up_bp", "How many who are short of it top up", `${rate(response.top_up_bp)} top up`)} if they are short by{" "}
        {plain("top_up_reach", "From how far they top up", response.top_up_reach, reachAs, (next) => (r) => ({ ...r, top_up_reach: next }), `${reachAs.tell(response.top_up_reach)} at most`)}
        {", "}
        <Slip title="Who tops up" trigger={<Word>{response.top_up_falls ? "fewer the further off" : "as many near as far"}</Word>}>
          <Choices
            label="Who tops up"
            value={response.top_up_falls ? "falls" : "flat"}
            onChange={(next) => set({ top_up_falls: next === "falls" })}
            options={[
              ["falls", "Fewer the further off"],
              ["flat", "As many near as far"],
            ]}
          />
        </Slip>
        .
      </>,
    );
  if (response.shift_bp !== null)
    said.push(<>Of those who would pay for another option, {rated("shift_bp", "How many choose the option it frees", `${rate(response.shift_bp)} choose the free one`)}.</>);
  if (response.extra_bp !== null)
    said.push(
      <>
        You expect it to bring {rated("extra_bp", "Extra orders, as a share of those it reaches", `${rate(response.extra_bp)} more`)} of the orders it reaches
        {response.extra_first_bp !== null && <>, {rated("extra_first_bp", "Extra first orders, as a share of those it reaches", `${rate(response.extra_first_bp)} more`)} of first ones</>}
        {response.borrowed_bp !== null && <>; {rated("borrowed_bp", "Extra orders that only came sooner", `${rate(response.borrowed_bp)} of them only come sooner`)}</>}
        {response.switched_bp !== null && (
          <>
            ; {rated("switched_bp", "Goods bought in place of others", `${rate(response.switched_bp)} of its goods`)} are bought in place of{" "}
            <ScopeWord
              title="In place of which goods"
              text={scopeInWords(response.switched_of, goods ?? [], "others")}
              scope={response.switched_of}
              goods={goods ?? []}
              frame={frame}
              unsound={problems.filter((one) => one.pointer.startsWith("/response/switched_of"))}
              onChange={(switched_of) => set({ switched_of })}
            />
          </>
        )}
        {response.extra_cost > 0 && (
          <>
            ; each costs {plain("extra_cost", "What an extra order costs to win", response.extra_cost, inMoney, (next) => (r) => ({ ...r, extra_cost: next }), cash(response.extra_cost), { extra_cost: 0 })} to win
          </>
        )}
        {response.later > 0 && (
          <>
            ; a new shopper keeps {plain("later", "What a new shopper keeps later", response.later, inMoney, (next) => (r) => ({ ...r, later: next }), cash(response.later), { later: 0 })} later
          </>
        )}
        .
      </>,
    );
  if (response.partner_bp > 0)
    said.push(
      <>
        {plain(
          "partner_bp",
          "What goes to a partner",
          response.partner_bp,
          { unit: "%", scale: 100, step: 100, least: 0, most: 10_000, tell: rate },
          (next) => (r) => ({ ...r, partner_bp: next }),
          `${rate(response.partner_bp)} of goods`,
          { partner_bp: 0 },
        )}{" "}
        goes to a partner.
      </>,
    );
  if (sends !== null)
    said.push(
      <>
        The code goes to {plain("sends/size", "How many messages are sent", sends.size, inCount("messages"), ofSends((size) => ({ size })), `${count(sends.size)} shoppers`, { sends: null })}{" "}
        <Slip title="How often it is sent" trigger={<Word>{sends.daily ? "every day" : "once"}</Word>}>
          <Choices
            label="How often it is sent"
            value={sends.daily ? "daily" : "once"}
            onChange={(often) => set({ sends: { ...sends, daily: often === "daily" } })}
            options={[
              ["once", "Once, as it begins"],
              ["daily", "Every day it is open, each time to so many others"],
            ]}
          />
        </Slip>
        {", "}
        <Slip
          title="To whom it is sent"
          trigger={
            <Word unsound={problems.filter((one) => one.pointer.startsWith("/response/sends/among"))}>
              {{ any: "new or not", first: "who never ordered", returning: "who ordered before" }[sends.to]}
              {sends.among && `, ${shoppersInWords(sends.among)}`}
            </Word>
          }
        >
          <Choices
            label="To whom it is sent"
            value={sends.to}
            onChange={(to) => set({ sends: { ...sends, to } })}
            options={[
              ["returning", "Who ordered before"],
              ["first", "Who never ordered"],
              ["any", "New or not"],
            ]}
          />
          <p className="mt-3 text-small text-soft">Of those</p>
          <WhoseChoice label="Of those" value={sends.among} frame={frame} all="All of them" without={["first", "returning"]} onChange={(among) => set({ sends: { ...sends, among } })} />
          <Faults of={problems.filter((one) => one.pointer.startsWith("/response/sends/among"))} />
        </Slip>
        , at {plain("sends/cost", "What a message costs", sends.cost, { ...inMoney, step: 1 }, ofSends((cost) => ({ cost })), cash(sends.cost))} each;{" "}
        {rated("send_response_bp", "How many answer with an order", `${rate(sends.response_bp)} order`, 0, null)} within{" "}
        {plain("sends/days", "Over how many days they come", sends.days, { ...inCount("days"), most: 60 }, ofSends((days) => ({ days })), `${count(sends.days)} ${sends.days === 1 ? "day" : "days"}`)}
        {", "}
        {plain(
          "sends/anyway_bp",
          "How many would have come anyway",
          sends.anyway_bp,
          { unit: "%", scale: 100, step: 100, least: 0, most: 10_000, tell: rate },
          ofSends((anyway_bp) => ({ anyway_bp })),
          `${rate(sends.anyway_bp)} of whom come anyway`,
        )}
        .
      </>,
    );
  if (response.fixed_cost > 0)
    said.push(<>It costs {plain("fixed_cost", "What it costs once", response.fixed_cost, inMoney, (next) => (r) => ({ ...r, fixed_cost: next }), cash(response.fixed_cost), { fixed_cost: 0 })} once.</>);

  const { returned_bp } = offer.terms;
  const returned = (next: number) => (before: Plan) => withTerms(before, offer.id, (t) => ({ ...t, returned_bp: next }));
  if (returned_bp !== AS_MUCH)
    said.push(
      <>
        <NumberWord
          title="How much more comes back of what it takes something off"
          currency={frame}
          unsound={spot("/returned_bp", problems.filter((one) => one.pointer === "/returned_bp"))}
          figure={{
            label: "Times as much",
            value: returned_bp,
            scale: AS_MUCH,
            step: 1_000,
            least: 0,
            most: 10 * AS_MUCH,
            unit: "times",
            digits: 2,
            tell: (n) => `${count(n / AS_MUCH, 2)} times`,
            set: (next) => change(returned(next)),
            withValue: (next) => returned(next)(plan),
          }}
          more={
            <button type="button" className="quiet justify-self-start text-small" onClick={() => change(returned(AS_MUCH))}>
              As much as without it
            </button>
          }
        >
          {`${count(returned_bp / AS_MUCH, 2)} times as much`}
        </NumberWord>{" "}
        comes back of what it takes something off.
      </>,
    );

  const unsaid: ReactNode[] = [];
  if (given.by !== "itself" && response.uptake_bp === null) unsaid.push(<>{rated("uptake_bp", "How many shoppers hold the code", "how many hold the code", 10_000)} (everybody counts)</>);
  if (response.extra_bp === null) unsaid.push(<>{rated("extra_bp", "Extra orders, as a share of those it reaches", "how many more orders it brings")} (none count)</>);
  const further = MORE_TO_SAY.filter((one) => one.fits(offer.terms));
  const mayReturn = returned_bp === AS_MUCH && allRewards(offer.terms).some((one) => !isDelivery(one) && one.kind !== "put_in");
  return (
    <p className="text-small leading-relaxed">
      {said.map((one, n) => (
        <Fragment key={n}>{one} </Fragment>
      ))}
      {unsaid.length > 0 && (
        <span className="text-soft">
          Not said yet:{" "}
          {unsaid.map((one, n) => (
            <Fragment key={n}>
              {n > 0 && ", "}
              {one}
            </Fragment>
          ))}
          .{" "}
        </span>
      )}
      {(further.length > 0 || mayReturn) && (
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="quiet">also expect…</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="slip" side="right" align="start" sideOffset={8} collisionPadding={12}>
              <DropdownMenu.Label className="px-2 text-small text-soft">How shoppers respond</DropdownMenu.Label>
              {further.map((one) => (
                <DropdownMenu.Item key={one.key} className="choice before:content-['…_']" onSelect={() => set(one.begin(response, offer.terms, unit))}>
                  {one.words}
                </DropdownMenu.Item>
              ))}
              {mayReturn && (
                <DropdownMenu.Item className="choice before:content-['…_']" onSelect={() => change(returned(1.5 * AS_MUCH))}>
                  more comes back of what it takes something off
                </DropdownMenu.Item>
              )}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
    </p>
  );
}
