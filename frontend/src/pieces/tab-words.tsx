/** The words that choose what a part of a place shows; they stand in a `Tabs.Root`. */
import { Tabs } from "radix-ui";

export const TabWords = ({ label, words }: { label: string; words: readonly (readonly [key: string, words: string])[] }) => (
  <Tabs.List className="flex gap-4 text-small" aria-label={label}>
    {words.map(([key, told]) => (
      <Tabs.Trigger key={key} value={key} className="border-b-2 border-transparent text-soft data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink">
        {told}
      </Tabs.Trigger>
    ))}
  </Tabs.List>
);
