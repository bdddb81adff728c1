import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { BakingSession } from "../../api/client";
import { pendingJobs } from "../../logic/jobs";
import { currentSessionQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { useLastDough } from "../../parts/useLastDough";
import { Closing } from "./Closing";
import { Live } from "./Live";
import { useEvents } from "./useEvents";

const LOOK_AGAIN_MS = 2000;

export function Bake() {
  const current = useQuery({ ...currentSessionQuery, refetchInterval: LOOK_AGAIN_MS });
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
  const session = current.data;
  if (session.state === "given_up") return <GivenUp session={session} />;
  return session.state === "running" && pendingJobs(session).length > 0 ? (
    <Live session={session} lost={current.error} />
  ) : (
    <Closing session={session} />
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
