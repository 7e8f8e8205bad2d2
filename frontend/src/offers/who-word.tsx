/** For whom an offer is, and where: shoppers, destinations, channels, ways of paying. */
import type { Terms, Where, Who } from "../api/types";
import { ANYBODY, ANYWHERE, WhereChoices, whereInWords, WhoChoices, whoInWords } from "../pieces/who-where";
import { ClauseWord } from "../pieces/words";
import type { PartProps, Say, Token } from "./part";

export function whoTokens({ who }: Terms, { held, full }: Say): Token[] {
  const text = whoInWords(who, full) || (held === "who" ? "for anybody" : "");
  return text ? [", ", { key: "who", text, word: (part) => <WhoWord {...{ who, part, text }} /> }] : [];
}

export function whereTokens({ where }: Terms, { held }: Say): Token[] {
  const text = whereInWords(where) || (held === "where" ? "wherever it goes" : "");
  return text ? [", ", { key: "where", text, word: (part) => <WhereWord {...{ where, part, text }} /> }] : [];
}

function WhoWord({ who, part, text }: { who: Who; part: PartProps; text: string }) {
  const { frame, edit, at } = part;
  const put = (change: Partial<Who>) => edit((t) => ({ ...t, who: { ...t.who, ...change } }));
  return (
    <ClauseWord tall title="For whom" text={text} unsound={at("/who")} width={360} onOpenChange={(open) => part.hold(open ? "who" : null)} drop={() => edit((t) => ({ ...t, who: ANYBODY }))}>
      <WhoChoices {...{ who, frame, put }} />
    </ClauseWord>
  );
}

function WhereWord({ where, part, text }: { where: Where; part: PartProps; text: string }) {
  const { frame, edit, at } = part;
  const put = (change: Partial<Where>) => edit((t) => ({ ...t, where: { ...t.where, ...change } }));
  return (
    <ClauseWord tall title="Where it holds" text={text} unsound={at("/where")} width={340} onOpenChange={(open) => part.hold(open ? "where" : null)} drop={() => edit((t) => ({ ...t, where: ANYWHERE }))}>
      <WhereChoices {...{ where, frame, put }} />
    </ClauseWord>
  );
}
