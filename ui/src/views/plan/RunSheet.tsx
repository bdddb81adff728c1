import { memo, useState } from "react";
import type { BakingSession } from "../../api/client";
import { clock, when } from "../../logic/format";
import { closed, isJob, wordsOf } from "../../logic/jobs";
import { readMoment } from "../../logic/moments";
import type { Wish } from "../../logic/wish";
import { DoughMark } from "../../parts/DoughMark";
import type { OnPin } from "../../parts/day/DayDrawing";
import { windowWords } from "../../parts/day/Picked";

interface RunSheetProps {
  session: BakingSession;
  pins?: Wish["pins"];
  onPin?: OnPin;
}

/** More jobs than this are printed in two columns, so that the day is one page. */
const ONE_COLUMN = 45;

const NO_PINS: Wish["pins"] = [];

/** The same day by the clock: every job, in order; some can be put at a time. */
export const RunSheet = memo(function RunSheet({ session, pins = NO_PINS, onPin }: RunSheetProps) {
  const jobs = session.activities.filter(isJob);
  const several = session.workers.length > 1;
  return (
    <details open className="border-t border-ink pt-2 print:border-0">
      <summary className="cursor-pointer text-lg font-bold print:hidden">
        The day by the clock
      </summary>
      <p className="hidden text-xl font-bold print:block">
        {session.name}, ready {when(session.finish_at, session.now)}
      </p>
      <button
        type="button"
        className="press mt-2 min-h-8 px-2 print:hidden"
        onClick={() => window.print()}
      >
        Print the run sheet
      </button>
      <div className={jobs.length > ONE_COLUMN ? "print:columns-2 print:gap-6" : ""}>
        <table className="mt-2 w-full print:leading-tight">
          <thead className="text-left text-[0.9375rem] text-soft">
            <tr>
              <th className="py-1 pr-4 font-normal">from</th>
              <th className="pr-4 font-normal max-sm:hidden print:hidden">to</th>
              {several && <th className="pr-4 font-normal">who</th>}
              <th className="pr-4 font-normal">job</th>
              <th className="font-normal">with</th>
            </tr>
          </thead>
          <tbody>
            {jobs.map((job, n) => {
              const said = wordsOf(job);
              const before = jobs[n - 1]?.start_at ?? session.now;
              const held = pins.some((p) => p.job === job.key);
              return (
                <tr key={job.key} className="border-t border-line break-inside-avoid">
                  <td className="py-1 pr-4 font-bold whitespace-nowrap print:py-0.5">
                    {onPin && job.may_be_pinned ? (
                      <BeginAt
                        key={job.start_at}
                        at={job.start_at}
                        label={`Begin at: ${said.title}`}
                        held={held}
                        onAt={(at) => onPin(job.key, at)}
                      />
                    ) : (
                      when(job.start_at, before)
                    )}
                  </td>
                  <td className="pr-4 max-sm:hidden print:hidden">{clock(job.end_at)}</td>
                  {several && (
                    <td className="pr-4">{job.hands && session.workers[job.who ?? 0]}</td>
                  )}
                  <td className="pr-4">
                    <span className="flex items-center gap-2">
                      {session.doughs.length > 1 && job.dough && (
                        <DoughMark letter={job.dough} size={20} />
                      )}
                      {said.title}
                    </span>
                    {said.steps.length > 0 && (
                      <span className="block text-[0.9375rem] text-soft print:text-[0.75rem]">
                        {said.steps.map(closed).join("; ")}
                      </span>
                    )}
                  </td>
                  <td className="text-soft">
                    {said.detail}
                    {onPin && job.may_be_pinned && windowWords(job) && (
                      <span className="block text-[0.9375rem] max-sm:hidden print:hidden">
                        {windowWords(job)}
                      </span>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </details>
  );
});

interface BeginAtProps {
  at: number;
  label: string;
  held: boolean;
  onAt: (at: number) => void;
}

/** When a job begins, by the clock; another time pins it there. */
function BeginAt({ at, label, held, onAt }: BeginAtProps) {
  const [text, setText] = useState(clock(at));
  const keep = () => {
    const wanted = readMoment(text, at, at);
    if (!Number.isFinite(wanted)) setText(clock(at));
    else if (wanted !== Math.floor(at / 60_000) * 60_000) onAt(wanted);
  };
  return (
    <input
      aria-label={label}
      title="Type another time to pin it there"
      inputMode="numeric"
      maxLength={20}
      className={`min-h-8 w-20 px-1 py-0 font-bold print:min-h-0 print:border-0 print:p-0 ${held ? "border-2 border-ink" : "border-dashed"}`}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === "Enter" && keep()}
    />
  );
}
