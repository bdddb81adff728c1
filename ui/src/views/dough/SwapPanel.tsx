import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { CardBody, Schemas, TraySetting, Words } from "../../api/client";
import { swapsQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { DifferenceWords, SideBySide } from "./Difference";

type Swap = Schemas["SwapOut"];

interface SwapPanelProps {
  card: CardBody;
  tray: TraySetting;
  doughId: number;
  words: Words;
  onTake: (after: CardBody, reason: string) => void;
}

/** Swaps that apply to this dough, each with what it would change, before it is taken. */
export function SwapPanel({ card, tray, doughId, words, onTake }: SwapPanelProps) {
  const [open, setOpen] = useState<string | null>(null);
  const swaps = useQuery(swapsQuery(card, tray, doughId));
  const found = swaps.data ?? [];
  const groups = [...new Set(found.map((s) => s.line))];
  return (
    <div className="flex flex-col gap-5">
      <Notice problem={swaps.error} />
      {swaps.data?.length === 0 && (
        <p className="text-soft">Nothing in this dough has a usual swap yet.</p>
      )}
      {groups.map((line) => {
        const own = found.filter((s) => s.line === line);
        return (
          <section key={line ?? "all"} aria-label={own[0]?.takes || "The whole dough"}>
            <h2 className="heading">
              {own[0]?.takes ? `In place of ${own[0].takes}` : "To the whole dough"}
            </h2>
            <ul>
              {own.map((swap) => {
                const key = `${swap.key} ${swap.line}`;
                return (
                  <SwapRow
                    key={key}
                    swap={swap}
                    words={words}
                    open={open === key}
                    onOpen={() => setOpen(open === key ? null : key)}
                    onTake={() => onTake(swap.card, `Swap: ${reason(swap)}`)}
                  />
                );
              })}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

const reason = (swap: Swap): string =>
  swap.takes ? `${swap.label} in place of ${swap.takes}` : swap.label;

interface SwapRowProps {
  swap: Swap;
  words: Words;
  open: boolean;
  onOpen: () => void;
  onTake: () => void;
}

function SwapRow({ swap, words, open, onOpen, onTake }: SwapRowProps) {
  return (
    <li className="border-b border-line py-2">
      <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
        <div className="min-w-60 flex-1">
          <strong className="text-lg">{swap.label}</strong>
          <DifferenceWords found={swap.difference} />
          <p className="text-[0.9375rem] text-soft">
            {swap.note} {swap.said}
          </p>
          {swap.caution && (
            <p className="text-[0.9375rem]">
              <strong className="text-caution">Caution:</strong> {swap.caution}
            </p>
          )}
        </div>
        <button
          type="button"
          className="press min-h-9"
          aria-expanded={open}
          aria-label={`Before and after: ${reason(swap)}`}
          onClick={onOpen}
        >
          Before and after
        </button>
        <button
          type="button"
          className="press min-h-9"
          aria-label={`Take it: ${reason(swap)}`}
          onClick={onTake}
        >
          Take it
        </button>
      </div>
      {open && (
        <div className="mt-2">
          <SideBySide found={swap.difference} words={words} names={["before", "after"]} />
        </div>
      )}
    </li>
  );
}
