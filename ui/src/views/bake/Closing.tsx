import { Link } from "react-router";
import type { BakingSession } from "../../api/client";
import { type ToDo, toDo } from "../../logic/closing";
import { clock } from "../../logic/format";
import { Notice } from "../../parts/Notice";
import { DoneBar } from "./DoneBar";
import { useEvents } from "./useEvents";

/** After the last tray: what is left to do, ticking itself off, and then the session is closed. */
export function Closing({ session }: { session: BakingSession }) {
  const { telling, undo, busy } = useEvents(session);
  const list = toDo(session);
  const next = list.find((one) => !one.done);
  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-12 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <section aria-label="To close" className="flex min-h-[calc(100dvh-5.25rem)] flex-col gap-4">
        <h1 className="text-5xl font-bold">All out.</h1>
        <p className="text-2xl">
          {session.name}: the last tray is cold at {clock(session.finish_at)}. Ice and pack only
          when cold all through.
        </p>
        <ul className="border-t-2 border-ink" aria-label="Left to do">
          {list.map((one) => (
            <Line key={one.key} one={one} />
          ))}
        </ul>
        {session.wish?.occasion && (
          <p>
            <Link to="/plan" className="underline">
              Keep it for next time
            </Link>
            , and write down what was left once it is over: Plan, For an occasion.
          </p>
        )}
        {next && (
          <button
            type="button"
            className="press min-h-11 self-start"
            disabled={busy}
            onClick={() => telling.mutate({ kind: "closed", activity: "" })}
          >
            Close it all the same
          </button>
        )}
        <Notice problem={telling.error ?? undo.error} />
        <DoneBar>
          <Main
            next={next}
            busy={busy}
            onDone={(activity) => telling.mutate({ kind: "done", activity })}
            onClose={() => telling.mutate({ kind: "closed", activity: "" })}
          />
          <button
            type="button"
            className="press min-h-28 px-6 text-xl max-sm:min-h-14 max-sm:flex-1"
            disabled={busy || !session.can_undo}
            onClick={() => undo.mutate()}
          >
            Take back
          </button>
        </DoneBar>
      </section>
      <Trays session={session} />
    </div>
  );
}

const MAIN = "press press-main min-h-28 min-w-64 flex-1 text-4xl max-sm:text-2xl";

interface MainProps {
  next: ToDo | undefined;
  busy: boolean;
  onDone: (activity: string) => void;
  onClose: () => void;
}

/** The next thing by one press, where Done was all the time. */
function Main({ next, busy, onDone, onClose }: MainProps) {
  if (!next) {
    return (
      <button type="button" className={MAIN} disabled={busy} onClick={onClose}>
        Close the session
      </button>
    );
  }
  if (next.to) {
    return (
      <Link to={next.to} className={`${MAIN} flex items-center justify-center text-center`}>
        {next.says}
      </Link>
    );
  }
  return (
    <button type="button" className={MAIN} disabled={busy} onClick={() => onDone(next.key)}>
      {next.says}: done
    </button>
  );
}

function Line({ one }: { one: ToDo }) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-b border-line py-2 text-2xl max-sm:text-xl">
      <span aria-hidden="true" className="w-8 flex-none text-center font-bold">
        {one.done ? "✓" : "○"}
      </span>
      {one.to ? (
        <Link to={one.to} className={`flex-1 underline ${one.done ? "text-soft" : ""}`}>
          {one.says}
        </Link>
      ) : (
        <span className={`flex-1 ${one.done ? "text-soft" : ""}`}>{one.says}</span>
      )}
      <span className="sr-only">{one.done ? "done" : "still to do"}</span>
      {one.label && (
        <Link to={one.label} className="press min-h-11 text-lg">
          Print its label
        </Link>
      )}
    </li>
  );
}

/** Each tray as it was baked, beside what was foreseen for it. */
function Trays({ session }: { session: BakingSession }) {
  return (
    <section aria-label="The trays" className="p-8 max-sm:p-4">
      <h2 className="heading">The trays</h2>
      <table className="w-full text-lg">
        <thead className="text-[0.9375rem] text-soft">
          <tr>
            <th className="py-1 pr-3 text-left font-normal">tray</th>
            <th className="text-right font-normal">pieces</th>
            <th className="text-right font-normal">foreseen</th>
            <th className="text-right font-normal">in the oven</th>
          </tr>
        </thead>
        <tbody>
          {session.trays.map((tray) => (
            <tr key={tray.name} className="border-t border-line">
              <td className="py-1 font-semibold">{tray.name}</td>
              <td className="text-right">{tray.pieces}</td>
              <td className="text-right">{tray.bakes.join(" + ")} min</td>
              <td className="text-right font-semibold">
                {took(
                  tray.bakes.length > 1 ? [tray.took_min, tray.took_again_min] : [tray.took_min],
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Minutes that each bake of a tray took; a dash where one is not over. */
const took = (minutes: (number | null)[]) =>
  `${minutes.map((one) => one?.toFixed(1) ?? "–").join(" + ")} min`;
