import { aheadMs } from "../logic/clock";
import { clock } from "../logic/format";
import { stillWaiting, type Waiting } from "../logic/waiting";
import { Cross } from "../parts/Cross";
import { forgetLate, useWaiting } from "../parts/said/outbox";
import { BAR } from "./bar";

const said = (one: Waiting) => `${one.words} (${clock(one.at + aheadMs())})`;

/** What was said here while nobody answered, and waits for that. */
export function Waits() {
  const waits = stillWaiting(useWaiting());
  if (waits.length === 0) return null;
  return (
    <p className={BAR}>
      <strong>Waits to be sent:</strong>
      {waits.map(said).join("; ")}
    </p>
  );
}

/** What was said while nobody answered, and cannot be any more. */
export function CameTooLate() {
  const late = useWaiting().filter((one) => one.late !== null);
  if (late.length === 0) return null;
  return (
    <div className={BAR}>
      <strong className="text-caution">Came too late:</strong>
      <ul className="flex min-w-0 flex-1 flex-col">
        {late.map((one) => (
          <li key={one.key}>
            {said(one)}. {one.late}
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="icon-press ml-auto"
        aria-label="Say no more of what came too late"
        onClick={forgetLate}
      >
        <Cross />
      </button>
    </div>
  );
}
