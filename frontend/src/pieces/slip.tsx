/** A slip of paper that opens beside a word: the editor of that word, or the working behind a figure. */
import { Popover } from "radix-ui";
import type { ReactNode } from "react";

interface SlipProps {
  trigger: ReactNode;
  title: string;
  children: ReactNode;
  width?: number;
  side?: "top" | "bottom" | "left" | "right";
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}

export function Slip({ trigger, title, children, width = 320, side = "bottom", open, onOpenChange }: SlipProps) {
  return (
    <Popover.Root open={open} onOpenChange={onOpenChange}>
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className="slip overflow-y-auto"
          style={{ width, maxHeight: "max(12rem, var(--radix-popover-content-available-height))" }}
          align="start"
          side={side}
          sideOffset={6}
          collisionPadding={12}
          aria-label={title}
        >
          <h3 className="mb-2 text-body">{title}</h3>
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
