import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { BakingSession } from "../../api/client";
import { serverNow } from "../../logic/clock";
import { when } from "../../logic/format";
import { jobNow, pendingJobs, wordsOf } from "../../logic/jobs";
import { planQuery } from "../../logic/queries";
import { DoughMark } from "../../parts/DoughMark";
import { SmallDay } from "../../parts/day/SmallDay";
import { DayExample } from "../../parts/examples/DayExample";
import { ToStand } from "../../parts/examples/ToStand";
import { Notice } from "../../parts/Notice";
import { useSession } from "../../parts/said/useSession";
import { useLastDough } from "../../parts/useLastDough";
import { useNow } from "../../parts/useNow";

/** What is baked now, or next: the day in little, its first job, and the way there. */
export function ComingDay() {
  const current = useSession();
  const plan = useQuery(planQuery);
  if (current.data === undefined || plan.data === undefined)
    return <Notice problem={current.error ?? plan.error} />;
  const running = current.data?.state === "running" && pendingJobs(current.data).length > 0;
  if (running && current.data) return <UnderWay session={current.data} />;
  return plan.data?.activities.length ? <Planned plan={plan.data} /> : <Nothing />;
}

function Heading({ session, said }: { session: BakingSession; said: string }) {
  const gives = new Map(session.doughs.map((dough) => [dough.letter, dough.each_gives]));
  const pieces = session.trays.reduce((sum, t) => sum + t.pieces * (gives.get(t.dough) ?? 1), 0);
  const kinds = session.doughs.length;
  return (
    <h2 className="heading flex-wrap gap-x-4 text-xl">
      <span className="mr-auto flex min-w-0 flex-wrap items-center gap-x-1.5">
        <span className="mr-2 min-w-0 break-words">{session.name}</span>
        {session.doughs.map((dough) => (
          <span key={dough.letter} title={dough.name}>
            <DoughMark letter={dough.letter} size={22} />
            <span className="sr-only">
              {dough.letter}: {dough.name}
            </span>
          </span>
        ))}
      </span>
      <span className="font-normal text-soft">
        {pieces} pieces{kinds > 1 && `, ${kinds} kinds`}, {said}
      </span>
    </h2>
  );
}

function UnderWay({ session }: { session: BakingSession }) {
  const now = useNow(session);
  const job = jobNow(session, now);
  return (
    <section aria-label="Under way">
      <Heading session={session} said={`ready ${when(session.finish_at, now)}`} />
      <SmallDay session={session} now={now} />
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Link to="/bake" className="press press-main">
          On with the bake
        </Link>
        {job && (
          <p className="text-lg">
            Now: <strong>{wordsOf(job).short}</strong>, {when(job.due_at, now)}
          </p>
        )}
      </div>
    </section>
  );
}

function Planned({ plan }: { plan: BakingSession }) {
  const now = serverNow();
  const [first] = pendingJobs(plan);
  return (
    <section aria-label="Planned">
      <Heading session={plan} said={`ready ${when(plan.finish_at, now)}`} />
      <SmallDay session={plan} now={now} />
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Link to="/plan" className="press press-main">
          Open the plan
        </Link>
        {first && (
          <p className="text-lg">
            First, {when(first.start_at, now)}: <strong>{wordsOf(first).short}</strong>
          </p>
        )}
      </div>
    </section>
  );
}

function Nothing() {
  const dough = useLastDough();
  return (
    <section aria-label="Planned">
      <h2 className="heading text-xl">Nothing is planned</h2>
      <ToStand
        example={<DayExample />}
        press={
          <Link to={dough ? `/plan/${dough}` : "/plan"} className="press press-main">
            Plan a day
          </Link>
        }
      >
        Whose hands do what, which tray is where, and when all is ready, will stand here.
      </ToStand>
    </section>
  );
}
