/** To whom a code is sent, what that costs, and how many answer. */
import type { Response, Sends } from "../../api/types";
import { count, soMany, rate } from "../../pieces/figures";
import { Slip } from "../../pieces/slip";
import { shoppersInWords, WhoseChoice } from "../../pieces/whose";
import { Choices, Faults, Word } from "../../pieces/words";
import { Amount, IN_PERCENT, inCount, inMoney, Share, useSaying } from "./response-words";

const TO = { any: "new or not", first: "who never ordered", returning: "who ordered before" } as const;

const ofSends = (part: (next: number) => Partial<Sends>) => (next: number) => (r: Response) => ({ ...r, sends: r.sends && { ...r.sends, ...part(next) } });

export function SentTo() {
  const { offer, frame } = useSaying();
  const { sends } = offer.terms.response;
  if (!sends) return null;
  return (
    <>
      The code goes to{" "}
      <Amount path="sends/size" title="How many messages are sent" value={sends.size} as={inCount("messages")} make={ofSends((size) => ({ size }))} unsay={{ sends: null }}>
        {soMany(sends.size, "shopper")}
      </Amount>{" "}
      <HowOften sends={sends} />
      {", "}
      <ToWhom sends={sends} />, at <Amount path="sends/cost" title="What a message costs" value={sends.cost} as={{ ...inMoney(frame), step: 1 }} make={ofSends((cost) => ({ cost }))} /> each;{" "}
      <Share figure="send_response_bp" title="How many answer with an order" unsay={null}>{`${rate(sends.response_bp)} order`}</Share> within{" "}
      <Amount path="sends/days" title="Over how many days they come" value={sends.days} as={{ ...inCount("days"), most: 60 }} make={ofSends((days) => ({ days }))}>
        {`${count(sends.days)} ${sends.days === 1 ? "day" : "days"}`}
      </Amount>
      {", "}
      <Amount path="sends/anyway_bp" title="How many would have come anyway" value={sends.anyway_bp} as={IN_PERCENT} make={ofSends((anyway_bp) => ({ anyway_bp }))}>
        {`${rate(sends.anyway_bp)} of whom come anyway`}
      </Amount>
      .
    </>
  );
}

function HowOften({ sends }: { sends: Sends }) {
  const { set } = useSaying();
  return (
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
  );
}

function ToWhom({ sends }: { sends: Sends }) {
  const { frame, problems, set } = useSaying();
  const faults = problems.filter((one) => one.pointer.startsWith("/response/sends/among"));
  return (
    <Slip
      title="To whom it is sent"
      trigger={
        <Word unsound={faults}>
          {TO[sends.to]}
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
      <Faults of={faults} />
    </Slip>
  );
}
