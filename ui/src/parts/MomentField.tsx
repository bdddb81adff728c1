import { useState } from "react";
import { clock } from "../logic/format";
import {
  nextDay,
  readDay,
  readMoment,
  readTime,
  stepped,
  timeOn,
  writeDay,
  writeMoment,
} from "../logic/moments";
import { Field } from "./Field";

interface MomentFieldProps {
  label: string;
  /** A moment with its day, a day alone, or a time on the day of its value. */
  of: "moment" | "day" | "time";
  /** In ms; null where none is set yet. */
  value: number | null;
  now: number;
  fault?: string | undefined;
  className?: string;
  onChange: (ms: number | null) => void;
}

const WRITE = { moment: writeMoment, day: writeDay, time: clock };
const SIZE = { moment: "w-52", day: "w-36", time: "w-28" };
const HELP = {
  moment: "Give a day and a time, such as",
  day: "Give a day, such as",
  time: "Give a time, such as",
};
const QUARTER = 15;

/** A date or a time as the kitchen reads it, typed as one says it (tomorrow 9:30, Sat 14:00). The
 * arrows move it by a quarter of an hour, with Shift by a day. */
export function MomentField(props: MomentFieldProps) {
  const { label, of, value, now, fault, className, onChange } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const near = value ?? now;
  const read = (text: string): number => {
    if (of === "day") return readDay(text, now);
    if (of === "moment") return readMoment(text, near, now);
    return timeOn(near, readTime(text));
  };
  const broken = typed !== null && typed.trim() !== "" && !Number.isFinite(read(typed));
  const move = (way: number, byDay: boolean) => {
    setTyped(null);
    onChange(byDay || of === "day" ? nextDay(near, way) : stepped(near, way * QUARTER));
  };
  return (
    <Field label={label} fault={broken ? `${HELP[of]} ${WRITE[of](near)}.` : fault}>
      {(named) => (
        <span className="flex items-stretch">
          <input
            {...named}
            className={className ?? `${SIZE[of]} text-lg font-semibold text-ink`}
            autoComplete="off"
            value={typed ?? (value === null ? "" : WRITE[of](value))}
            onChange={(event) => {
              const text = event.target.value;
              setTyped(text);
              const ms = text.trim() === "" ? null : read(text);
              if (ms === null || Number.isFinite(ms)) onChange(ms);
            }}
            onKeyDown={(event) => {
              const way = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
              if (!way) return;
              event.preventDefault();
              move(way, event.shiftKey);
            }}
            onBlur={() => setTyped((text) => (text !== null && broken ? text : null))}
          />
          {([-1, 1] as const).map((way) => (
            <button
              key={way}
              type="button"
              tabIndex={-1}
              className="icon-press -ml-px min-w-9 border border-line"
              aria-label={`${of === "day" ? "A day" : "A quarter of an hour"} ${way < 0 ? "earlier" : "later"}`}
              onClick={() => move(way, false)}
            >
              {way < 0 ? "−" : "+"}
            </button>
          ))}
        </span>
      )}
    </Field>
  );
}
