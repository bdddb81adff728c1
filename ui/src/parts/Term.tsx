import { Popover } from "radix-ui";
import { TERMS, type TermKey } from "../logic/terms";

/** A term with what it means, a press away. */
export function Term({ of, children }: { of: TermKey; children: React.ReactNode }) {
  const [name, meaning] = TERMS[of];
  return (
    <Popover.Root>
      <Popover.Trigger
        type="button"
        className="cursor-help text-left font-[inherit] underline decoration-dotted underline-offset-4"
        title="What is that?"
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={name}
          sideOffset={4}
          collisionPadding={8}
          className="z-20 max-w-80 border border-ink bg-sheet p-3 text-base font-normal text-ink"
        >
          {meaning}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
