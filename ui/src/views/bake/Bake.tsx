import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { BakingSession } from "../../api/client";
import { isAway } from "../../api/untilKept";
import { when } from "../../logic/format";
import { pendingJobs } from "../../logic/jobs";
import { planQuery } from "../../logic/queries";
import { BakeExample } from "../../parts/examples/BakeExample";
import { ToStand } from "../../parts/examples/ToStand";
import { Notice } from "../../parts/Notice";
import { useSession } from "../../parts/said/useSession";
import { useLastDough } from "../../parts/useLastDough";
import { Closing } from "./Closing";
import { Live } from "./Live";
import { useEvents } from "./useEvents";

const LOOK_AGAIN_MS = 2000;

export function Bake() {
  const current = useSession(LOOK_AGAIN_MS);
  if (current.error && !current.data) {
    return (
      <div className="p-6">
        <Notice problem={current.error} />
      </div>
    );
  }
  if (current.data === undefined) return <p className="p-6 text-soft">One moment…</p>;
  if (current.data === null) {
    return <NothingBaked />;
  }
  const session = current.data;
  if (session.state === "given_up") return <GivenUp session={session} />;
  return session.state === "running" && pendingJobs(session).length > 0 ? (
    // That nobody answers is said above every screen.
    <Live session={session} failed={isAway(current.error) ? null : current.error} />
  ) : (
    <Closing session={session} />
  );
}

/** What will stand here while something is baked; one press leads to what is planned. */
function NothingBaked() {
  const plan = useQuery(planQuery).data;
  const dough = useLastDough();
  const planned = plan?.activities.length ? plan : null;
  return (
    <section className="flex flex-col gap-3 p-6 max-sm:p-3">
      <h1 className="text-3xl font-bold">Nothing is being baked.</h1>
      {planned && (
        <p className="text-lg">
          <strong>{planned.name}</strong> is planned, ready {when(planned.finish_at, planned.now)}.
        </p>
      )}
      <ToStand
        example={<BakeExample />}
        press={
          <Link
            to={planned ? "/plan" : dough ? `/plan/${dough}` : "/"}
            className="press press-main min-h-12 text-lg"
          >
            {planned ? "Open the plan and start" : dough ? "To the plan" : "Choose a dough"}
          </Link>
        }
      >
        The job for now with its steps and its drawing, the oven’s shelves with what is on them and
        how long, what comes next, and Done will stand here once a plan is started.
      </ToStand>
    </section>
  );
}

/** A session that was ended before its time: it can be taken up again, or left behind. */
function GivenUp({ session }: { session: BakingSession }) {
  const { undo } = useEvents(session);
  return (
    <section className="flex max-w-2xl flex-col items-start gap-4 p-8 max-sm:p-4">
      <h1 className="text-5xl font-bold">Given up.</h1>
      <p className="text-2xl">
        {session.name} is not baked any further, and nothing is learnt from it.
      </p>
      <p className="text-lg">
        Look into the oven and turn it off. Dough with egg or dairy goes into the fridge within two
        hours, or is thrown away; follow your local food authority.
      </p>
      <Notice problem={undo.error} />
      <div className="flex flex-wrap gap-3">
        <Link to="/plan" className="press press-main min-h-12 text-lg">
          To the plan
        </Link>
        <button type="button" className="press min-h-12 text-lg" onClick={() => undo.mutate()}>
          Go on with it after all
        </button>
      </div>
    </section>
  );
}
