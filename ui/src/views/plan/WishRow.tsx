import { useState } from "react";
import { LIMITS } from "../../api/limits";
import { fromField, toField } from "../../logic/format";
import { nextQuarter, type Wish } from "../../logic/wish";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { Stepper } from "../../parts/Stepper";

type Anchor = "now" | "start" | "ready";

interface WishRowProps {
  wish: Wish;
  startAt: number;
  /** When all can be ready at the soonest, as far as is known. */
  finishAt: number;
  fault: (field: string) => string | undefined;
  onWish: (wish: Wish) => void;
}

const ANCHORS = [
  ["now", "start now"],
  ["start", "start at"],
  ["ready", "ready by"],
] as const;

/** What there is to bake with, and when. Each change is planned at once. */
export function WishRow({ wish, startAt, finishAt, fault, onWish }: WishRowProps) {
  const anchor: Anchor = wish.ready_by ? "ready" : wish.start_at ? "start" : "now";
  // What is typed stays as it is; until then the field follows the plan.
  const [typed, setTyped] = useState<string | null>(null);
  const time = typed ?? toField(wish.ready_by ?? wish.start_at ?? startAt);

  const ask = (part: Partial<Wish>, by: Anchor = anchor, at: string = time) => {
    const ms = fromField(at);
    if (by !== "now" && !Number.isFinite(ms)) return;
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
      className="flex flex-wrap items-start gap-x-6 gap-y-2"
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
          setTyped(null);
          ask({}, next, toField(next === "ready" ? nextQuarter(finishAt) : startAt));
        }}
      />
      {anchor !== "now" && (
        <Field
          label={anchor === "start" ? "Start at" : "Cold and ready by"}
          fault={fault(anchor === "start" ? "start_at" : "ready_by")}
        >
          {(props) => (
            <input
              {...props}
              type="datetime-local"
              className="text-lg font-semibold"
              value={time}
              onChange={(event) => {
                setTyped(event.target.value);
                ask({}, anchor, event.target.value);
              }}
            />
          )}
        </Field>
      )}
    </section>
  );
}
