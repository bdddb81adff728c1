import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { BakingSession } from "../../api/client";
import { type BakeEvent, felt, leaveOut, notYet, OVEN_SLOW } from "../../logic/events";
import { clock, countdown, when } from "../../logic/format";
import { inOven, jobNow, pendingJobs, wordsOf } from "../../logic/jobs";
import { bookWordsQuery } from "../../logic/queries";
import { ColourToSee } from "../../parts/ColourStrip";
import { DayDrawing } from "../../parts/day/DayDrawing";
import { Notice } from "../../parts/Notice";
import { OvenProbe } from "../../parts/oven/OvenProbe";
import { useNow } from "../../parts/useNow";
import { useAwake, useKeys, useTwice, useWholeScreen } from "./companion";
import { DoneBar } from "./DoneBar";
import { Firmness } from "./Firmness";
import { Happenings, KeyCap } from "./Happenings";
import { JobDrawing } from "./JobDrawing";
import { JobSteps } from "./JobSteps";
import { LoadedTray } from "./LoadedTray";
import { MannerPanel } from "./MannerPanel";
import { OvenDrawing } from "./OvenDrawing";
import { Sheets } from "./Sheets";
import { useEvents } from "./useEvents";
import { WeighAlong } from "./WeighAlong";

const LISTED = 5;
/** A day is drawn in minutes: its line need not move with each second. */
const DRAWN_EVERY_MS = 10_000;

/** The companion while something is baked: the job for now, what is next, the oven as it is. */
export function Live({ session, failed }: { session: BakingSession; failed: Error | null }) {
  const now = useNow(session);
  const { telling, undo, giveUp, busy } = useEvents(session);
  const [twice, noteDone] = useTwice();
  const [picked, setPicked] = useState<string | null>(null);
  const [whole, turnWhole] = useWholeScreen();
  const words = useQuery(bookWordsQuery);
  const jobs = pendingJobs(session);
  const first = jobNow(session, now);
  const order = first ? [first, ...jobs.filter((next) => next !== first)] : jobs;
  const place = Math.max(
    order.findIndex((next) => next.key === picked),
    0,
  );
  const job = order[place];
  const said = job ? wordsOf(job) : null;

  useAwake(first !== undefined);

  const tell = (what: BakeEvent | null) => {
    if (what && !busy) telling.mutate(what, { onSuccess: () => setPicked(null) });
  };
  const done = () => {
    if (!job || busy || twice) return;
    noteDone();
    // On a phone the next job's words are above what was looked at.
    window.scrollTo({ top: 0 });
    tell({ kind: "done", activity: job.key });
  };
  const back = () => {
    if (!busy && session.can_undo) undo.mutate();
  };
  const pick = (by: number) =>
    setPicked(order[Math.min(Math.max(place + by, 0), LISTED)]?.key ?? null);
  useKeys({
    " ": done,
    "1": done,
    "2": () => tell(job ? notYet(job, session) : null),
    "3": () => tell(job ? leaveOut(job) : null),
    "5": () => tell(OVEN_SLOW),
    "6": () => tell(job ? felt(job, "soft") : null),
    "7": () => tell(job ? felt(job, "right") : null),
    "8": () => tell(job ? felt(job, "hard") : null),
    "0": back,
    ArrowDown: () => pick(1),
    ArrowUp: () => pick(-1),
    Escape: () => setPicked(null),
  });

  if (!job || !said) return null;
  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-6 p-5 max-sm:p-3 md:grid-cols-[minmax(0,1fr)_19rem] lg:grid-cols-[minmax(0,1fr)_24rem]">
      <section
        aria-label="Now"
        className="flex has-[[data-weighing]]:[&_[data-drawing]]:hidden min-h-[calc(100dvh-5.25rem)] flex-col gap-3"
      >
        <p role="status" className="sr-only">
          {said.title}. {said.detail}
        </p>
        <Due wait={job.due_at - now} at={job.due_at} sooner={place > 0} />
        <h1 className="text-7xl leading-none font-bold max-lg:text-6xl max-sm:text-4xl">
          {said.title}
        </h1>
        <p className="text-4xl leading-tight max-lg:text-3xl max-sm:text-2xl">{said.detail}</p>
        <p className="text-2xl text-soft max-sm:text-xl">{said.cue}</p>
        {said.colour_from !== null && said.colour_to !== null && words.data && (
          <ColourToSee words={words.data.colours} right={[said.colour_from, said.colour_to]} />
        )}
        {said.caution && (
          <p className="text-xl">
            <strong className="text-caution">Caution:</strong> {said.caution}
          </p>
        )}
        <div className="grid grid-cols-1 gap-x-6 gap-y-3 lg:grid-cols-2 lg:has-[>:only-child]:grid-cols-1">
          <JobSteps
            key={session.id}
            session={session}
            job={job}
            now={now}
            onEvent={(what, onError) => telling.mutate(what, { onError })}
          />
          <JobDrawing session={session} job={job} />
        </div>
        <WeighAlong
          session={session}
          job={job}
          busy={busy}
          onEvent={(what) => telling.mutate(what)}
        />
        <LoadedTray session={session} job={job} />
        <Firmness session={session} job={job} busy={busy} onEvent={tell} />
        <Happenings session={session} job={job} now={now} busy={busy} onEvent={tell} />
        <Notice problem={telling.error ?? undo.error ?? giveUp.error ?? failed} />
        <p role="status" className="min-h-7 text-lg">
          {session.said ? (
            <>
              <strong>Moved:</strong> {session.said}
            </>
          ) : null}
        </p>
        <MannerPanel whole={whole} onWhole={turnWhole} onGiveUp={() => giveUp.mutate()} />
        <DoneBar>
          <button
            type="button"
            className="press press-main min-h-28 min-w-64 flex-1 text-5xl"
            disabled={busy || twice}
            onClick={done}
          >
            Done{" "}
            <span className="text-lg font-normal max-sm:hidden pointer-coarse:hidden">space</span>
          </button>
          <button
            type="button"
            className="press min-h-28 px-6 text-xl max-sm:min-h-14 max-sm:flex-1"
            disabled={busy || !session.can_undo}
            onClick={back}
          >
            Take back <KeyCap>0</KeyCap>
          </button>
        </DoneBar>
      </section>
      <aside className="flex flex-col gap-5">
        <OvenDrawing
          session={session}
          ovens={inOven(session)}
          now={now}
          busy={busy}
          onMore={(key) => tell({ kind: "more", activity: key, minutes: 3 })}
          onOut={(key) => tell({ kind: "done", activity: key })}
        />
        <OvenProbe session={session} />
        <section aria-label="Next">
          <h2 className="heading">
            Next
            <span className="font-normal text-soft">all cold {when(session.finish_at, now)}</span>
          </h2>
          <ol>
            {order.slice(0, LISTED + 1).map((next, n) =>
              n === place ? null : (
                <li key={next.key} className="border-b border-line">
                  <button
                    type="button"
                    className="flex min-h-11 w-full items-baseline gap-3 py-1.5 text-left text-lg hover:bg-wash"
                    aria-label={`Do this first: ${wordsOf(next).short}`}
                    onClick={() => {
                      setPicked(n === 0 ? null : next.key);
                      // On a phone the job at hand is far above this list.
                      window.scrollTo({ top: 0 });
                    }}
                  >
                    <strong className="w-20 flex-none whitespace-nowrap">
                      {clock(next.due_at)}
                    </strong>
                    {wordsOf(next).short}
                  </button>
                </li>
              ),
            )}
          </ol>
        </section>
        <Link to={`/print/session/${session.id}`} className="press min-h-11 self-start text-lg">
          The day by the clock
        </Link>
        <Sheets session={session} />
        {session.said_by && (
          <p className="text-soft">
            Pressed last on <strong>{session.said_by}</strong>.
          </p>
        )}
      </aside>
      <div className="col-span-full max-sm:hidden">
        <DayDrawing session={session} now={now - (now % DRAWN_EVERY_MS)} />
      </div>
    </div>
  );
}

/** When the job is due: now, in so long, or how long ago. */
function Due({ wait, at, sooner }: { wait: number; at: number; sooner: boolean }) {
  const late = wait < -60_000;
  return (
    <p className="flex flex-wrap items-baseline gap-4 text-3xl font-bold">
      <span className="bg-yolk px-3 py-1 text-dark">
        {wait > 5000 ? `in ${countdown(wait)}` : late ? `${countdown(wait)} late` : "now"}
      </span>
      <span>{clock(at)}</span>
      {sooner && (
        <span className="text-lg font-normal">
          before its turn
          <span className="max-sm:hidden pointer-coarse:hidden">
            ; <kbd className="font-sans">Esc</kbd> goes back to what is due
          </span>
        </span>
      )}
    </p>
  );
}
