/** Low, likely and high on one rod: three beads, dragged or moved by the arrow keys. */
import { Slider } from "radix-ui";

import { rate } from "./figures";

interface Props {
  label: string;
  /** Basis points, rising. */
  values: [low: number, likely: number, high: number];
  most: number;
  onChange: (values: [number, number, number]) => void;
}

const NAMES = ["Low", "Likely", "High"] as const;
const STEP = 50;

export function RangeRod({ label, values, most, onChange }: Props) {
  const top = Math.min(most, Math.max(1_000, Math.ceil((values[2] * 1.5) / 1_000) * 1_000));
  return (
    <div className="mt-1">
      <Slider.Root
        className="relative flex h-7 touch-none items-center select-none"
        value={values}
        min={0}
        max={top}
        step={STEP}
        minStepsBetweenThumbs={0}
        onValueChange={(next) => onChange([next[0]!, next[1]!, next[2]!])}
      >
        <Slider.Track className="relative h-[3px] grow bg-ink">
          <Slider.Range className="absolute h-full bg-yellow" />
        </Slider.Track>
        {NAMES.map((name, at) => (
          <Slider.Thumb
            key={name}
            aria-label={`${label}: ${name.toLowerCase()}`}
            aria-valuetext={rate(values[at]!)}
            className={`block rounded-bead border-[1.5px] border-ink ${at === 1 ? "size-5 bg-ink" : "size-4 bg-sheet"}`}
          />
        ))}
      </Slider.Root>
      <p className="flex justify-between text-small text-soft">
        {NAMES.map((name, at) => (
          <span key={name}>
            {name.toLowerCase()} {rate(values[at]!)}
          </span>
        ))}
      </p>
    </div>
  );
}
