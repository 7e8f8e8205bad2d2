/** Places that are not built yet: each says plainly what will be there, and pretends nothing. */
import { Link } from "react-router";

function ToCome({ name, will, now }: { name: string; will: string[]; now: string }) {
  return (
    <div className="mx-auto max-w-2xl px-7 py-14">
      <h1 className="text-answer">{name} is not built yet</h1>
      <p className="mt-4">Here you will be able to:</p>
      <ul className="mt-2 grid gap-1.5">
        {will.map((line) => (
          <li key={line} className="flex gap-3">
            <span aria-hidden className="mt-1.5 size-3 shrink-0 rounded-bead border-[1.5px] border-dashed border-soft" />
            {line}
          </li>
        ))}
      </ul>
      <p className="mt-6 text-soft">
        {now}{" "}
        <Link to="/counting-board" className="quiet">
          Go to the Counting board
        </Link>
      </p>
    </div>
  );
}

export const SideBySide = () => (
  <ToCome
    name="Side by side"
    will={[
      "hold plans against each other and against today",
      "see which response would make one plan beat the other",
    ]}
    now="Until then, each plan on the Counting board is held against today."
  />
);
