/** Below an offer: how shoppers are expected to respond, as sentences too, and what the offer comes to. */
import { DropdownMenu } from "radix-ui";
import { Fragment, type ReactNode } from "react";

import { useNames } from "../../api/queries";
import type { Response } from "../../api/types";
import { count, kilograms, rate } from "../../pieces/figures";
import { scopeInWords, ScopeWord } from "../../pieces/scope-word";
import { Slip } from "../../pieces/slip";
import { Choices, spot, Word } from "../../pieces/words";
import { NumberWord } from "../../offers/number-word";
import { allRewards, isDelivery, withTerms } from "../../offers/offers";
import { MORE_TO_SAY, toppedUp } from "../../offers/responses";
import { Amount, Besides, IN_PERCENT, inCount, inMoney, SayingOf, Share, useSaying, type ExpectedProps } from "./response-words";
import { SentTo } from "./sent-to";

/** Basis points: as much comes back as without the offer. */
const AS_MUCH = 10_000;

export function Expected(props: ExpectedProps) {
  return (
    <SayingOf {...props}>
      <p className="text-small leading-relaxed">
        <WhatIsSaid />
        <WhatIsNot />
        <MoreToSay />
      </p>
    </SayingOf>
  );
}

/** What is expected, a sentence each, in the order in which shoppers meet the offer. */
function WhatIsSaid() {
  const { response, given, returned_bp } = useSaying().offer.terms;
  const hasCode = given.by !== "itself";
  const sentences: [string, boolean, () => ReactNode][] = [
    ["held", hasCode && response.uptake_bp !== null, () => <HoldCode />],
    ["shown", hasCode && response.shown !== "" && response.sends === null, () => <ToldTo />],
    ["taken", response.take_up_bp !== null, () => <TakeIt />],
    ["topped up", response.top_up_bp !== null, () => <TopUp />],
    ["shifted", response.shift_bp !== null, () => <ChooseFree />],
    ["extra", response.extra_bp !== null, () => <BringsMore />],
    ["partner", response.partner_bp > 0, () => <ToPartner />],
    ["sent", response.sends !== null, () => <SentTo />],
    ["once", response.fixed_cost > 0, () => <CostsOnce />],
    ["returned", returned_bp !== AS_MUCH, () => <ComesBack />],
  ];
  return sentences.filter(([, isSaid]) => isSaid).map(([key, , tell]) => <Fragment key={key}>{tell()} </Fragment>);
}

function HoldCode() {
  const { uptake_bp, uptake_first_bp } = useSaying().offer.terms.response;
  return (
    <>
      You expect{" "}
      <Share figure="uptake_bp" title="How many shoppers hold the code" otherwise={10_000}>
        {`${rate(uptake_bp ?? 0)} of shoppers`}
      </Share>{" "}
      to hold the code
      {uptake_first_bp !== null && (
        <>
          , <Share figure="uptake_first_bp" title="How many first-time shoppers hold it">{`${rate(uptake_first_bp)} of first-time ones`}</Share>
        </>
      )}
      .
    </>
  );
}

const SHOWN = { to_few: "told to few", to_all: "shown to all", "": "" } as const;
const SHOWN_LONG: Record<Response["shown"], string> = { to_few: "Told to few, as in a letter", to_all: "Shown to everybody, as on the front page", "": "Not said" };

function ToldTo() {
  const { offer, set } = useSaying();
  const { shown } = offer.terms.response;
  return (
    <>
      The code is{" "}
      <Slip title="Who is told of the code" trigger={<Word>{SHOWN[shown]}</Word>}>
        <Choices label="Who is told of the code" value={shown} onChange={(next) => set({ shown: next })} options={Object.entries(SHOWN_LONG) as [Response["shown"], string][]} />
      </Slip>
      .
    </>
  );
}

function TakeIt() {
  const { take_up_bp } = useSaying().offer.terms.response;
  return (
    <>
      <Share figure="take_up_bp" title="How many take what it gives">{`${rate(take_up_bp ?? 0)} take it`}</Share>.
    </>
  );
}

function TopUp() {
  const { offer, frame, set } = useSaying();
  const { top_up_bp, top_up_reach: reach, top_up_falls: falls } = offer.terms.response;
  const as = {
    spend: { ...inMoney(frame), least: 1 },
    units: { ...inCount("units"), tell: (n: number) => `${count(n)} ${n === 1 ? "unit" : "units"}` },
    weight: { ...inCount("g"), step: 100, tell: kilograms },
    products: { ...inCount("products"), tell: (n: number) => `${count(n)} ${n === 1 ? "product" : "products"}` },
  }[toppedUp(offer.terms) ?? "spend"];
  return (
    <>
      <Share figure="top_up_bp" title="How many who are short of it top up">{`${rate(top_up_bp ?? 0)} top up`}</Share> if they are short by{" "}
      <Amount path="top_up_reach" title="From how far they top up" value={reach} as={as} make={(next) => (r) => ({ ...r, top_up_reach: next })}>
        {`${as.tell(reach)} at most`}
      </Amount>
      {", "}
      <Slip title="Who tops up" trigger={<Word>{falls ? "fewer the further off" : "as many near as far"}</Word>}>
        <Choices
          label="Who tops up"
          value={falls ? "falls" : "flat"}
          onChange={(next) => set({ top_up_falls: next === "falls" })}
          options={[
            ["falls", "Fewer the further off"],
            ["flat", "As many near as far"],
          ]}
        />
      </Slip>
      .
    </>
  );
}

function ChooseFree() {
  const { shift_bp } = useSaying().offer.terms.response;
  return (
    <>
      Of those who would pay for another option, <Share figure="shift_bp" title="How many choose the option it frees">{`${rate(shift_bp ?? 0)} choose the free one`}</Share>.
    </>
  );
}

function BringsMore() {
  const { extra_bp, extra_first_bp, borrowed_bp, switched_bp, extra_cost, later } = useSaying().offer.terms.response;
  return (
    <>
      You expect it to bring <Share figure="extra_bp" title="Extra orders, as a share of those it reaches">{`${rate(extra_bp ?? 0)} more`}</Share> of the orders it reaches
      {extra_first_bp !== null && (
        <>
          , <Share figure="extra_first_bp" title="Extra first orders, as a share of those it reaches">{`${rate(extra_first_bp)} more`}</Share> of first ones
        </>
      )}
      {borrowed_bp !== null && (
        <>
          ; <Share figure="borrowed_bp" title="Extra orders that only came sooner">{`${rate(borrowed_bp)} of them only come sooner`}</Share>
        </>
      )}
      {switched_bp !== null && <InPlaceOf share={switched_bp} />}
      {extra_cost > 0 && (
        <>
          ; each costs <Besides of="extra_cost" title="What an extra order costs to win" /> to win
        </>
      )}
      {later > 0 && (
        <>
          ; a new shopper keeps <Besides of="later" title="What a new shopper keeps later" /> later
        </>
      )}
      .
    </>
  );
}

function InPlaceOf({ share }: { share: number }) {
  const { offer, frame, problems, set } = useSaying();
  const { data: goods } = useNames();
  const { switched_of: scope } = offer.terms.response;
  return (
    <>
      ; <Share figure="switched_bp" title="Goods bought in place of others">{`${rate(share)} of its goods`}</Share> are bought in place of{" "}
      <ScopeWord
        title="In place of which goods"
        text={scopeInWords(scope, goods ?? [], "others")}
        goods={goods ?? []}
        unsound={problems.filter((one) => one.pointer.startsWith("/response/switched_of"))}
        onChange={(switched_of) => set({ switched_of })}
        {...{ scope, frame }}
      />
    </>
  );
}

function ToPartner() {
  const { partner_bp } = useSaying().offer.terms.response;
  return (
    <>
      <Besides of="partner_bp" title="What goes to a partner" as={IN_PERCENT}>{`${rate(partner_bp)} of goods`}</Besides> goes to a partner.
    </>
  );
}

function CostsOnce() {
  return (
    <>
      It costs <Besides of="fixed_cost" title="What it costs once" /> once.
    </>
  );
}

/** So many times as much comes back, in ten thousandths. */
function useReturned() {
  const { offer, plan, change } = useSaying();
  const make = (next: number) => (before: typeof plan) => withTerms(before, offer.id, (t) => ({ ...t, returned_bp: next }));
  return { value: offer.terms.returned_bp, set: (next: number) => change(make(next)), withValue: (next: number) => make(next)(plan) };
}

function ComesBack() {
  const { frame, problems } = useSaying();
  const { value, set, withValue } = useReturned();
  const tell = (n: number) => `${count(n / AS_MUCH, 2)} times`;
  return (
    <>
      <NumberWord
        title="How much more comes back of what it takes something off"
        currency={frame}
        unsound={spot("/returned_bp", problems.filter((one) => one.pointer === "/returned_bp"))}
        figure={{ label: "Times as much", scale: AS_MUCH, step: 1_000, least: 0, most: 10 * AS_MUCH, unit: "times", digits: 2, value, tell, set, withValue }}
        more={
          <button type="button" className="quiet justify-self-start text-small" onClick={() => set(AS_MUCH)}>
            As much as without it
          </button>
        }
      >
        {`${tell(value)} as much`}
      </NumberWord>{" "}
      comes back of what it takes something off.
    </>
  );
}

/** What matters for most offers, while nothing is said of it. */
function WhatIsNot() {
  const { response, given } = useSaying().offer.terms;
  const unsaid: [string, ReactNode][] = [];
  if (given.by !== "itself" && response.uptake_bp === null)
    unsaid.push([
      "held",
      <>
        <Share figure="uptake_bp" title="How many shoppers hold the code" otherwise={10_000}>
          how many hold the code
        </Share>{" "}
        (everybody counts)
      </>,
    ]);
  if (response.extra_bp === null)
    unsaid.push([
      "extra",
      <>
        <Share figure="extra_bp" title="Extra orders, as a share of those it reaches">
          how many more orders it brings
        </Share>{" "}
        (none count)
      </>,
    ]);
  if (unsaid.length === 0) return null;
  return (
    <span className="text-soft">
      Not said yet:{" "}
      {unsaid.map(([key, one], n) => (
        <Fragment key={key}>
          {n > 0 && ", "}
          {one}
        </Fragment>
      ))}
      .{" "}
    </span>
  );
}

/** Whatever else can matter for this offer. */
function MoreToSay() {
  const { offer, frame, set } = useSaying();
  const returned = useReturned();
  const { terms } = offer;
  const further = MORE_TO_SAY.filter((one) => one.fits(terms));
  const mayReturn = returned.value === AS_MUCH && allRewards(terms).some((one) => !isDelivery(one) && one.kind !== "put_in");
  if (further.length === 0 && !mayReturn) return null;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="quiet">also expect…</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="slip" side="right" align="start" sideOffset={8} collisionPadding={12}>
          <DropdownMenu.Label className="px-2 text-small text-soft">How shoppers respond</DropdownMenu.Label>
          {further.map((one) => (
            <DropdownMenu.Item key={one.key} className="choice before:content-['…_']" onSelect={() => set(one.begin(terms.response, terms, frame.round_amount))}>
              {one.words}
            </DropdownMenu.Item>
          ))}
          {mayReturn && (
            <DropdownMenu.Item className="choice before:content-['…_']" onSelect={() => returned.set(1.5 * AS_MUCH)}>
              more comes back of what it takes something off
            </DropdownMenu.Item>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
