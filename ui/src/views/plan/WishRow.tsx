import { useState } from "react";
import type { Schemas } from "../../api/client";
import { fromField, toField } from "../../app/format";
import { Choice } from "../../parts/Choice";
import { Field } from "../../parts/Field";
import { Stepper } from "../../parts/Stepper";

type Wish = Schemas["WishBody"];
type Anchor = "now" | "start" | "ready";

interface WishRowProps {
  wish: Wish;
  startAt: number;
  fault: (field: string) => string | undefined;
  busy: boolean;
  onWish: (wish: Wish) => void;
}

const ANCHORS = [
  ["now", "start now"],
  ["start", "start at"],
  ["ready", "ready by"],
] as const;

/** What there is to bake with, and when. Each change is planned at once. */
export function WishRow({ wish, startAt, fault, busy, onWish }: WishRowProps) {
  const [anchor, setAnchor] = useState<Anchor>(wish.ready_by ? "ready" : "now");
  const [time, setTime] = useState(() => toField(wish.ready_by ?? startAt));
  const { sheets, shelves } = wish;

  const ask = (part: Partial<Wish>, by: Anchor = anchor, at: string = time) => {
    const ms = fromField(at);
    if (by !== "now" && !Number.isFinite(ms)) return;
    onWish({
      sheets,
      shelves,
      ...(by === "start" ? { start_at: ms } : {}),
      ...(by === "ready" ? { ready_by: ms } : {}),
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
        value={sheets}
        range={[1, 12]}
        onChange={(next) => ask({ sheets: next })}
      />
      <Stepper
        label="Oven shelves"
        value={shelves}
        range={[1, 4]}
        onChange={(next) => ask({ shelves: next })}
      />
      <Choice
        label="When"
        value={anchor}
        options={ANCHORS}
        onChange={(next) => {
          setAnchor(next);
          ask({}, next);
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
                setTime(event.target.value);
                ask({}, anchor, event.target.value);
              }}
            />
          )}
        </Field>
      )}
      <p role="status" className="self-end text-soft">
        {busy ? "Planning…" : ""}
      </p>
    </section>
  );
}
