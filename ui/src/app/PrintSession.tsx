import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import type { BakingSession } from "../api/client";
import { when } from "../logic/format";
import { planQuery } from "../logic/queries";
import { DoughMark } from "../parts/DoughMark";
import { PrintPage } from "../parts/PrintPage";
import { useSession } from "../parts/said/useSession";
import { CardAmongOthers } from "../views/dough/PrintCard";
import { Lists } from "../views/plan/PrintLists";
import { JobsOnPaper } from "../views/plan/RunSheet";
import { TrayAmongOthers } from "../views/tray/PrintTray";

/** Everything of a session in one print, or one PDF: its day, its lists, and of each dough the card
 * and the tray, each on a page of its own. */
export default function PrintSession() {
  const id = Number(useParams().sessionId);
  const plan = useQuery(planQuery);
  const current = useSession();
  const session = [plan.data, current.data].find((one) => one?.id === id);
  const gone =
    plan.data !== undefined && current.data !== undefined && !session
      ? new Error("This session is neither planned nor baked any more. Open Plan.")
      : null;
  const baked = session?.id === current.data?.id;
  return (
    <PrintPage
      problem={session ? null : (plan.error ?? current.error ?? gone)}
      back={baked ? "Back to Bake" : "Back to the plan"}
      to={baked ? "/bake" : "/plan"}
      several
    >
      {session && <Pages session={session} />}
    </PrintPage>
  );
}

function Pages({ session }: { session: BakingSession }) {
  const known = session.doughs.filter(
    (dough, n) =>
      dough.dough_id !== null &&
      session.doughs.findIndex((other) => other.dough_id === dough.dough_id) === n,
  );
  return (
    <div className="flex flex-col gap-8 print:block">
      <section className="break-after-page">
        <h1 className="border-b-2 border-ink pb-1 text-3xl font-bold print:text-xl">
          {session.name}
        </h1>
        <p className="mt-1 text-lg print:text-base">
          Begun {when(session.start_at, session.now)}, ready {when(session.finish_at, session.now)}.
        </p>
        <Doughs session={session} />
        <JobsOnPaper session={session} />
      </section>
      <section className="break-after-page">
        <Lists plan={session} />
      </section>
      {known.map((dough, n) => {
        const id = dough.dough_id as number;
        return (
          <div key={dough.letter} className="flex flex-col gap-8 print:block">
            <section className="break-after-page">
              <CardAmongOthers doughId={id} above={<Made session={session} doughId={id} />} />
            </section>
            <section className={n < known.length - 1 ? "break-after-page" : ""}>
              <TrayAmongOthers doughId={id} above={<Trays session={session} doughId={id} />} />
            </section>
          </div>
        );
      })}
    </div>
  );
}

function Doughs({ session }: { session: BakingSession }) {
  if (session.doughs.length === 1) return null;
  return (
    <ul className="mt-2 flex flex-wrap gap-x-6 print:mt-1 print:gap-x-4 print:text-sm">
      {session.doughs.map((dough) => (
        <li key={dough.letter} className="flex min-w-0 items-center gap-1.5">
          <DoughMark letter={dough.letter} size={18} />
          <span className="min-w-0 wrap-anywhere">{dough.name}</span>
        </li>
      ))}
    </ul>
  );
}

interface OfDoughProps {
  session: BakingSession;
  doughId: number;
}

/** How often the card is made in this session, where that is not once. */
function Made({ session, doughId }: OfDoughProps) {
  const times = session.doughs
    .filter((dough) => dough.dough_id === doughId)
    .map((dough) => dough.times ?? 1);
  if (times.every((one) => one === 1)) return null;
  return (
    <p className="mt-1 font-semibold">
      Made {times.map((one) => `${one} times`).join(" and ")} in this session: weigh as the list “To
      weigh” says.
    </p>
  );
}

/** The trays of this session that hold it. */
function Trays({ session, doughId }: OfDoughProps) {
  const letters = session.doughs
    .filter((dough) => dough.dough_id === doughId)
    .map((dough) => dough.letter);
  const trays = session.trays.filter((tray) => letters.includes(tray.dough));
  return (
    <p className="mt-1 font-semibold">
      In this session: {trays.map((tray) => `${tray.name} with ${tray.pieces}`).join(", ")}.
    </p>
  );
}
