import { memo, useState } from "react";
import { Link } from "react-router";
import type { Activity, BakingSession } from "../../api/client";
import { clock, when } from "../../logic/format";
import { closed, isJob, wordsOf } from "../../logic/jobs";
import { readMoment } from "../../logic/moments";
import type { Wish } from "../../logic/wish";
import { Choice } from "../../parts/Choice";
import { DoughMark } from "../../parts/DoughMark";
import type { OnPin } from "../../parts/day/DayDrawing";
import { windowWords } from "../../parts/day/Picked";
import { useRemembered } from "../../parts/useRemembered";

interface RunSheetProps {
  session: BakingSession;
  pins?: Wish["pins"];
  onPin?: OnPin;
}

/** More jobs than this are printed in two columns, so that the day is one page. */
const ONE_COLUMN = 45;

const NO_PINS: Wish["pins"] = [];

const WAYS = [
  ["stretches", "in stretches"],
  ["jobs", "every job"],
] as const;

/** The same day by the clock: in stretches of work, each opened on a press, or every job in order;
 * some can be put at a time. On paper every job. */
export const RunSheet = memo(function RunSheet({ session, pins = NO_PINS, onPin }: RunSheetProps) {
  const jobs = session.activities.filter(isJob);
  const [way, setWay] = useRemembered<(typeof WAYS)[number][0]>("run sheet", "stretches");
  // By job, as a day that is planned anew has other stretches.
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const rows = { session, pins, onPin };
  return (
    <details open className="border-t border-ink pt-2 print:border-0">
      <summary className="cursor-pointer text-lg font-bold print:hidden">
        The day by the clock
      </summary>
      <p className="hidden text-xl font-bold print:block">
        {session.name}, ready {when(session.finish_at, session.now)}
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-4 print:hidden">
        <Choice label="Shown" value={way} options={WAYS} onChange={setWay} />
        <button type="button" className="press min-h-9 px-2" onClick={() => window.print()}>
          Print the run sheet
        </button>
        <Link className="press min-h-9 px-2" to={`/print/session/${session.id}`}>
          Print all of the session
        </Link>
      </div>
      {way === "stretches" && (
        <ol className="mt-2 print:hidden" aria-label="Stretches of work">
          {session.stretches.map((stretch) => (
            <Stretch
              key={stretch.start_at}
              stretch={stretch}
              jobs={jobs}
              open={stretch.jobs.some((key) => opened.has(key))}
              onOpen={(open) => setOpened((before) => withJobs(before, stretch.jobs, open))}
              {...rows}
            />
          ))}
        </ol>
      )}
      <div
        className={`${way === "stretches" ? "hidden print:block" : ""} ${jobs.length > ONE_COLUMN ? "print:columns-2 print:gap-5 print:text-[0.875rem]" : ""}`}
      >
        <Jobs
          jobs={jobs}
          before={session.now}
          {...rows}
          onPin={way === "jobs" ? onPin : undefined}
        />
      </div>
    </details>
  );
});

function withJobs(before: ReadonlySet<string>, jobs: readonly string[], open: boolean) {
  const others = [...before].filter((key) => !jobs.includes(key));
  return new Set(open ? [...others, ...jobs] : others);
}

interface StretchProps extends RowsProps {
  stretch: BakingSession["stretches"][number];
  jobs: Activity[];
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** One stretch of work in one line; pressed, it shows its jobs. */
function Stretch({ stretch, jobs, open, onOpen, ...rows }: StretchProps) {
  const { session } = rows;
  const within = new Set(stretch.jobs);
  return (
    <li className="border-t border-line">
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full flex-wrap items-baseline gap-x-4 gap-y-0.5 py-2 text-left text-lg hover:bg-wash"
        onClick={() => onOpen(!open)}
      >
        <strong className="w-44 flex-none whitespace-nowrap max-sm:w-full">
          {clock(stretch.start_at)}–{clock(stretch.end_at)}
        </strong>
        <span className="flex min-w-0 flex-1 flex-wrap items-center gap-x-3 gap-y-1">
          {stretch.worked.map(({ dough, said }) => (
            <span key={dough ?? ""} className="flex min-w-0 items-center gap-1.5">
              {dough && session.doughs.length > 1 && <DoughMark letter={dough} size={20} />}
              {said}
            </span>
          ))}
          {stretch.trays_said && <span className="text-soft">{stretch.trays_said}</span>}
        </span>
        <span className="text-[0.9375rem] text-soft">
          {stretch.jobs.length === 1 ? "1 job" : `${stretch.jobs.length} jobs`}
        </span>
      </button>
      {open && (
        <div className="pb-3 sm:pl-6">
          <Jobs
            jobs={jobs.filter((job) => within.has(job.key))}
            before={stretch.start_at}
            {...rows}
          />
        </div>
      )}
    </li>
  );
}

interface RowsProps {
  session: BakingSession;
  pins: Wish["pins"];
  onPin: OnPin | undefined;
}

/** The day job by job, for paper. */
export function JobsOnPaper({ session }: { session: BakingSession }) {
  const jobs = session.activities.filter(isJob);
  return (
    <div
      className={
        jobs.length > ONE_COLUMN ? "print:columns-2 print:gap-5 print:text-[0.875rem]" : ""
      }
    >
      <Jobs jobs={jobs} before={session.now} session={session} pins={NO_PINS} onPin={undefined} />
    </div>
  );
}

/** Every job, in order: from when, to when, who, what, with what. */
function Jobs({
  jobs,
  before: first,
  session,
  pins,
  onPin,
}: RowsProps & { jobs: Activity[]; before: number }) {
  const several = session.workers.length > 1;
  return (
    <table className="mt-2 w-full print:leading-tight">
      <thead className="text-left text-[0.9375rem] text-soft">
        <tr>
          <th className="py-1 pr-4 font-normal">from</th>
          <th className="pr-4 font-normal max-sm:hidden print:hidden">to</th>
          {several && <th className="pr-4 font-normal">who</th>}
          <th className="pr-4 font-normal">job</th>
          <th className="font-normal max-sm:hidden print:hidden">with</th>
        </tr>
      </thead>
      <tbody>
        {jobs.map((job, n) => {
          const said = wordsOf(job);
          const before = jobs[n - 1]?.start_at ?? first;
          const held = pins.some((p) => p.job === job.key);
          return (
            <tr key={job.key} className="border-t border-line break-inside-avoid">
              <td className="py-1 pr-4 align-top font-bold whitespace-nowrap print:py-px print:pr-2">
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
              {several && <td className="pr-4">{job.hands && session.workers[job.who ?? 0]}</td>}
              <td className="py-1 pr-4 wrap-anywhere max-sm:pr-0 print:py-0 print:pr-0">
                <span className="flex items-center gap-2 print:inline print:font-semibold print:[&>svg]:-my-1 print:[&>svg]:mr-1 print:[&>svg]:inline print:[&>svg]:size-4">
                  {session.doughs.length > 1 && job.dough && (
                    <DoughMark letter={job.dough} size={20} />
                  )}
                  {said.title}
                </span>
                {/* On paper what it is done with goes on in the line, so that a day is one page; on a
                    phone there is no room beside it. */}
                <span className="hidden text-soft max-sm:block print:inline"> {said.detail}</span>
                {said.steps.length > 0 && (
                  <span className="block text-[0.9375rem] text-soft print:text-[0.6875rem]">
                    {said.steps.map(closed).join("; ")}
                  </span>
                )}
              </td>
              <td className="text-soft wrap-anywhere max-sm:hidden print:hidden">
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
  );
}

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
