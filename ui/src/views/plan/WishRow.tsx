import type { ReactNode } from "react";
import { LIMITS } from "../../api/limits";
import { nextQuarter, type Wish } from "../../logic/wish";
import { Choice } from "../../parts/Choice";
import { MomentField } from "../../parts/MomentField";
import { Stepper } from "../../parts/Stepper";

type Anchor = "now" | "start" | "ready";

interface WishRowProps {
  wish: Wish;
  now: number;
  startAt: number;
  /** When all can be ready at the soonest, as far as is known. */
  finishAt: number;
  fault: (field: string) => string | undefined;
  onWish: (wish: Wish) => void;
  /** The press that takes the last change back. */
  takeBack: ReactNode;
}

const ANCHORS = [
  ["now", "start now"],
  ["start", "start at"],
  ["ready", "ready by"],
] as const;

/** What there is to bake with, and when. Each change is planned at once. */
export function WishRow({ wish, now, startAt, finishAt, fault, onWish, takeBack }: WishRowProps) {
  const anchor: Anchor = wish.ready_by ? "ready" : wish.start_at ? "start" : "now";
  const time = wish.ready_by ?? wish.start_at ?? startAt;

  const ask = (part: Partial<Wish>, by: Anchor = anchor, ms: number = time) => {
    onWish({
      ...wish,
      start_at: by === "start" ? ms : null,
      ready_by: by === "ready" ? ms : null,
      ...part,
    });
  };

  return (
    <section
      aria-label="What is there, and when"
      className="flex flex-wrap items-start gap-x-4 gap-y-2"
    >
      <Stepper
        label="Sheets"
        value={wish.sheets}
        range={LIMITS.Wish.sheets}
        onChange={(next) => ask({ sheets: next })}
      />
      <Stepper
        label="Oven shelves"
        value={wish.shelves}
        range={LIMITS.Wish.shelves}
        onChange={(next) => ask({ shelves: next })}
      />
      <Choice
        label="When"
        value={anchor}
        options={ANCHORS}
        onChange={(next) => {
          // A time that can be kept: it can be moved from there.
          ask({}, next, next === "ready" ? nextQuarter(finishAt) : startAt);
        }}
      />
      {anchor !== "now" && (
        <MomentField
          key={anchor}
          label={anchor === "start" ? "Start at" : "Cold and ready by"}
          of="moment"
          value={time}
          now={now}
          fault={fault(anchor === "start" ? "start_at" : "ready_by")}
          onChange={(at) => at !== null && ask({}, anchor, at)}
        />
      )}
      <span className="ml-auto self-end">{takeBack}</span>
    </section>
  );
}
