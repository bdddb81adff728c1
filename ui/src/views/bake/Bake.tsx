import { useEffect } from "react";
import { Link } from "react-router";
import type { BakingSession } from "../../api/client";
import { clock, countdown, when } from "../../app/format";
import { useLastDough } from "../../app/lastDough";
import { Notice } from "../../parts/Notice";
import { DayDrawing } from "../plan/DayDrawing";
import { inOven, pendingJobs, sayJob } from "./jobs";
import { OvenDrawing } from "./OvenDrawing";
import { useCurrentSession, useDeeds, useNow } from "./session";

export function Bake() {
  const current = useCurrentSession(1000);
  const dough = useLastDough();
  if (current.error && !current.data) {
    return (
      <div className="p-6">
        <Notice problem={current.error} />
      </div>
    );
  }
  if (current.data === undefined) return <p className="p-6 text-soft">One moment…</p>;
  if (current.data === null) {
    return (
      <section className="max-w-xl p-8">
        <h1 className="text-3xl font-bold">Nothing is being baked.</h1>
        <p className="mt-3 text-lg">Plan a dough’s trays and start from there.</p>
        <Link to={dough ? "/plan" : "/dough"} className="press press-main mt-4">
          {dough ? "To the plan" : "To the doughs"}
        </Link>
      </section>
    );
  }
  return <Live session={current.data} lost={current.error} />;
}

function Live({ session, lost }: { session: BakingSession; lost: Error | null }) {
  const now = useNow(session);
  const { deed, undo } = useDeeds(session);
  const jobs = pendingJobs(session);
  const ovens = inOven(session);
  const job = jobs[0];
  const busy = deed.isPending || undo.isPending;
  const done = () => {
    if (job && !busy) deed.mutate({ kind: "done", activity: job.key });
  };
  useSpace(done);

  if (!job) return <AllDone session={session} onUndo={() => undo.mutate()} />;
  const said = sayJob(job, session);
  const wait = job.due_at - now;
  return (
    <div className="grid flex-1 content-start gap-6 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <section aria-label="Now" className="flex flex-col gap-3">
        <Due wait={wait} at={job.due_at} />
        <h1 className="text-6xl leading-none font-bold max-sm:text-4xl">{said.title}</h1>
        <p className="text-3xl max-sm:text-2xl">{said.detail}</p>
        <p className="text-2xl text-soft max-sm:text-xl">{said.cue}</p>
        {said.caution && (
          <p className="text-lg">
            <strong className="text-caution">Caution:</strong> {said.caution}
          </p>
        )}
        <div className="mt-2 flex flex-wrap gap-3">
          <button
            type="button"
            className="press press-main min-h-24 min-w-72 flex-1 text-4xl"
            disabled={busy}
            onClick={done}
          >
            Done <span className="text-lg font-normal">space</span>
          </button>
          <button
            type="button"
            className="press min-h-24 px-6 text-xl max-sm:min-h-14 max-sm:flex-1"
            disabled={busy || !session.can_undo}
            onClick={() => undo.mutate()}
          >
            Take back
          </button>
        </div>
        <Notice problem={deed.error ?? undo.error ?? lost} />
        <p role="status" className="min-h-7 text-lg">
          {session.said ? (
            <>
              <strong>Moved:</strong> {session.said}
            </>
          ) : null}
        </p>
      </section>
      <aside className="flex flex-col gap-5">
        <OvenDrawing
          session={session}
          ovens={ovens}
          now={now}
          busy={busy}
          onMore={(key) => deed.mutate({ kind: "more", activity: key, minutes: 3 })}
        />
        <section aria-label="Next">
          <h2 className="heading">
            Next
            <span className="font-normal text-soft">all cold {when(session.finish_at, now)}</span>
          </h2>
          <ol>
            {jobs.slice(1, 6).map((next) => (
              <li
                key={next.key}
                className="flex items-baseline gap-3 border-b border-line py-1.5 text-lg"
              >
                <strong className="w-14">{clock(next.due_at)}</strong>
                {sayJob(next, session).short}
              </li>
            ))}
          </ol>
        </section>
      </aside>
      <div className="lg:col-span-2 max-sm:hidden">
        <DayDrawing session={session} now={now} />
      </div>
    </div>
  );
}

/** When the job is due: now, in so long, or how long ago. */
function Due({ wait, at }: { wait: number; at: number }) {
  const late = wait < -60_000;
  return (
    <p className="flex items-baseline gap-4 text-3xl font-bold">
      <span className="bg-yolk px-3 py-1 text-dark">
        {wait > 5000 ? `in ${countdown(wait)}` : late ? `${countdown(wait)} late` : "now"}
      </span>
      <span>{clock(at)}</span>
    </p>
  );
}

function AllDone({ session, onUndo }: { session: BakingSession; onUndo: () => void }) {
  return (
    <section className="flex max-w-2xl flex-col items-start gap-4 p-8">
      <h1 className="text-5xl font-bold">All out.</h1>
      <p className="text-2xl">
        {session.name}: the last tray is cold at {clock(session.finish_at)}. Ice and pack only when
        cold all through.
      </p>
      {session.doughs
        .filter((d) => d.dough_id !== null)
        .map((d) => (
          <Link
            key={d.letter}
            to={`/book/${d.dough_id}?session=${session.id}`}
            className="press press-main min-h-16 text-2xl"
          >
            Write down what came out{session.doughs.length > 1 ? ` of ${d.name}` : ""}
          </Link>
        ))}
      <button type="button" className="press" onClick={onUndo}>
        Take the last step back
      </button>
    </section>
  );
}

/** Space is the large button, wherever the focus is but on another control. */
function useSpace(press: () => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        event.key !== " " ||
        event.repeat ||
        target.closest("button, a, input, select, textarea, summary")
      )
        return;
      event.preventDefault();
      press();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}
