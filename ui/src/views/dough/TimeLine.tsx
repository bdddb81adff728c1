import { length } from "../../logic/format";
import { STAGE, STAGE_SHORT, stretches, type Told } from "../../logic/method";

/** Widths go by the root of the minutes: a night in the fridge leaves room for a minute's wrapping. */
const width = (minutes: number) => Math.sqrt(Math.max(minutes, 0));
const LEAST = 1.5;

/** The method drawn from left to right: hands filled, waits hatched, by the part of the work. */
export function TimeLine({ told }: { told: Told[] }) {
  const groups = stretches(told);
  if (groups.length === 0) return null;
  const hands = told.reduce((sum, step) => sum + step.hands_min, 0);
  const waits = told.reduce((sum, step) => sum + step.wait_min, 0);
  return (
    <figure
      aria-label={`The method as a line of time: ${length(Math.round(hands))} of hands, ${length(Math.round(waits))} of waiting`}
      className="flex flex-wrap items-stretch gap-1"
    >
      {groups.map(({ stage, steps }) => {
        const size = steps.reduce(
          (sum, { step }) => sum + Math.max(width(step.hands_min) + width(step.wait_min), LEAST),
          0,
        );
        return (
          <div
            key={`${stage} ${steps[0]?.place}`}
            className="flex min-w-16 flex-col"
            style={{ flexGrow: size, flexBasis: 0 }}
          >
            <span className="truncate text-[0.9375rem] font-bold" title={STAGE[stage]}>
              {STAGE_SHORT[stage]}
            </span>
            <span className="flex h-7 gap-px">
              {steps.map(({ step, place }) => (
                <Bar key={place} step={step} />
              ))}
            </span>
            <span className="truncate text-[0.9375rem] text-soft">{minutesOf(steps)}</span>
          </div>
        );
      })}
    </figure>
  );
}

function minutesOf(steps: { step: Told }[]): string {
  const hands = steps.reduce((sum, { step }) => sum + step.hands_min, 0);
  const waits = steps.reduce((sum, { step }) => sum + step.wait_min, 0);
  const each = steps.reduce((sum, { step }) => sum + (step.per === "piece" ? step.each_s : 0), 0);
  return [
    hands > 0 ? length(Math.round(hands)) : "",
    waits > 0 ? `${hands > 0 ? "wait " : ""}${length(Math.round(waits))}` : "",
    each > 0 ? `${Math.round(each)} s each` : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** One step: its hands in ink, its waiting after it hatched. */
function Bar({ step }: { step: Told }) {
  const hands = width(step.hands_min);
  const wait = width(step.wait_min);
  const title = `${step.label}: ${step.text}`;
  return (
    <>
      {(hands > 0 || wait === 0) && (
        <span
          title={title}
          className={step.origin === "card" ? "min-w-1 bg-ink" : "min-w-1 bg-soft"}
          style={{ flexGrow: Math.max(hands, LEAST), flexBasis: 0 }}
        />
      )}
      {wait > 0 && (
        <span
          title={title}
          className="min-w-1 border-2 border-line bg-[repeating-linear-gradient(45deg,transparent_0_4px,var(--color-line)_4px_6px)]"
          style={{ flexGrow: wait, flexBasis: 0 }}
        />
      )}
    </>
  );
}

/** The longest that a bar of one step is drawn: a night, by the root of its minutes. */
const LONGEST = width(8 * 60);

/** One step's own lengths, to the same scale in every row. */
export function StepBar({ step }: { step: Told }) {
  const whole = width(step.hands_min) + width(step.wait_min);
  if (whole === 0) return null;
  return (
    <span className="flex h-2.5 gap-px" style={{ width: `${Math.min(whole / LONGEST, 1) * 100}%` }}>
      <Bar step={step} />
    </span>
  );
}
