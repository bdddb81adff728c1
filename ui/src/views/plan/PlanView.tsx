import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { type BakingSession, type Kitchen, ProblemError } from "../../api/client";
import { doughQuery, isGone, kitchenQuery, otherPlanQuery, planQuery } from "../../logic/queries";
import { remember, remembered } from "../../logic/remembered";
import { joinedBy, type Wish, wishOf, withItems } from "../../logic/wish";
import { DayDrawing, type OnPin } from "../../parts/day/DayDrawing";
import { DayExample } from "../../parts/examples/DayExample";
import { ToStand } from "../../parts/examples/ToStand";
import { Notice } from "../../parts/Notice";
import { useLastDough } from "../../parts/useLastDough";
import { useTakeBack } from "../../parts/useTakeBack";
import { AwayTimes } from "./AwayTimes";
import { useDropPlan, useMakePlan, useStart, useStopSearch, WISH } from "./changes";
import { Helps } from "./Helps";
import { OccasionPanel } from "./OccasionPanel";
import { OtherPlan } from "./OtherPlan";
import { Pins } from "./Pins";
import { PlanFigures, PlanStart } from "./PlanFigures";
import { PlanFiles } from "./PlanFiles";
import { RunSheet } from "./RunSheet";
import { SessionDoughs } from "./SessionDoughs";
import { SessionsAgain } from "./SessionsAgain";
import { ToWeigh } from "./ToWeigh";
import { WishRow } from "./WishRow";

/** The session that is being planned; a dough in the address joins it. */
export default function PlanView() {
  const { doughId } = useParams();
  const joining = doughId === undefined ? null : Number(doughId);
  if (joining !== null && !(Number.isInteger(joining) && joining > 0))
    return <Navigate to="/dough" replace />;
  return <Planning joining={joining} />;
}

function Planning({ joining }: { joining: number | null }) {
  const plan = useQuery(planQuery);
  const kitchen = useQuery(kitchenQuery);
  const dough = useQuery(doughQuery(joining));
  if (isGone(dough.error)) return <Navigate to="/dough" replace state={{ gone: true }} />;
  const problem = plan.error ?? kitchen.error;
  if (problem && plan.data === undefined) {
    return (
      <div className="p-6">
        <Notice problem={problem} />
      </div>
    );
  }
  if (plan.data === undefined || !kitchen.data) return <p className="p-6 text-soft">One moment…</p>;
  return <PlanBench joining={joining} plan={plan.data} kitchen={kitchen.data} />;
}

/** How long a session takes of which nothing is known yet. */
const FIRST_GUESS_MS = 4 * 3_600_000;
/** Each press on the plan is a change of its own, however soon it follows. */
const EACH_CHANGE_MS = 0;

interface PlanBenchProps {
  joining: number | null;
  plan: BakingSession | null;
  kitchen: Kitchen;
}

function PlanBench({ joining, plan, kitchen }: PlanBenchProps) {
  const make = useMakePlan();
  const start = useStart();
  const stop = useStopSearch();
  const drop = useDropPlan();
  const navigate = useNavigate();
  // What was asked for last stays in its fields, also when it cannot be. A dough that comes from its
  // tray is there from the first look on, so that nothing moves under a finger.
  // What could not be planned before the page was left is asked for again.
  const [asked, setAskedHere] = useState(() => {
    const unsent = remembered<Wish | null>(WISH, null);
    return joinedBy(joining, unsent ?? wishOf(plan, kitchen)) ?? unsent;
  });
  const setAsked = (next: Wish | null) => {
    remember(WISH, next, null);
    setAskedHere(next);
  };
  // Without a dough nothing is planned yet: what else was asked for waits for one.
  const waits = asked !== null && asked.items.length === 0 && (!plan || drop.isPending);
  const wish = asked && (asked.items.length > 0 || waits) ? asked : wishOf(plan, kitchen);

  // What a change took with it, until something else is asked for.
  const [said, setSaid] = useState("");
  const taking = useTakeBack<Wish>((before) => put(before), EACH_CHANGE_MS);

  const put = (next: Wish, then?: () => void) => {
    setSaid("");
    setAsked(next);
    const onSuccess = () => {
      setAskedHere((now) => (now === next ? null : now));
      then?.();
    };
    if (next.items.length > 0) make.mutate(next, { onSuccess });
    else if (plan) drop.mutate(undefined, { onSuccess: () => then?.() });
  };

  const ask = (next: Wish) => {
    // A field that is left with what it had says so once more.
    if (JSON.stringify(next) !== JSON.stringify(wish)) taking.note(wish);
    put(next);
  };

  const askItems = (items: Wish["items"]) => {
    const { wish: next, fallen } = withItems(wish, items, plan);
    const left = items.map((item) => item.dough_id);
    const gone = wish.items.flatMap((item, n) => {
      const place = left.indexOf(item.dough_id);
      if (place >= 0) left.splice(place, 1);
      return place >= 0 ? [] : [plan?.doughs[n]?.name ?? "A dough"];
    });
    ask(next);
    const words = [
      ...gone.map((name) => `${name} is out of the session.`),
      ...(fallen > 0 ? [fallen === 1 ? "A pin fell away." : `${fallen} pins fell away.`] : []),
    ];
    setSaid(words.join(" "));
  };

  /** Something else altogether; what was wished before can be taken back. */
  const askInstead = (next: Wish, name: string) => {
    ask(next);
    if (wish.items.length > 0) setSaid(`${name} is planned, in place of what stood here.`);
  };

  // A dough that comes from its tray joins the session; one that was changed is planned anew.
  const opened = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the screen opens
  useEffect(() => {
    if (opened.current) return;
    opened.current = true;
    const there = () => joining !== null && navigate("/plan", { replace: true });
    if (asked || (plan?.stale && wish.items.length > 0)) put(wish, there);
    else there();
  }, []);

  // A press on Start while a number that was just typed is planned starts what is planned from it.
  const [wanted, setWanted] = useState<{ asPlanned: boolean } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once it is wanted and nothing is planned
  useEffect(() => {
    if (!wanted || make.isPending) return;
    setWanted(null);
    if (make.isError || !plan) return;
    start.mutate(
      { sessionId: plan.id, asPlanned: wanted.asPlanned },
      { onSuccess: () => navigate("/bake") },
    );
  }, [wanted, make.isPending]);

  const fault = (field: string) =>
    make.error instanceof ProblemError ? make.error.at(field) : undefined;
  const pinNow = useRef<OnPin>(() => undefined);
  pinNow.current = (job, startAt) =>
    ask({
      ...wish,
      pins: [...wish.pins.filter((p) => p.job !== job), { job, start_at: Math.max(startAt, 0) }],
    });
  // The same from drawing to drawing: a press on a tray draws the day alone anew.
  const pin = useCallback<OnPin>((job, startAt) => pinNow.current(job, startAt), []);
  const [only, setOnly] = useState<string | null>(null);
  const [beside, setBeside] = useState(false);
  const other = useQuery(otherPlanQuery(plan, beside));
  const until = beside && other.data ? other.data.plan.finish_at : undefined;

  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-8 gap-y-4 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_17rem] lg:grid-rows-[auto_1fr]">
      {plan && (
        <div className="lg:col-start-2 print:hidden">
          <PlanStart
            plan={plan}
            busy={make.isPending}
            onReadyBy={(at) => ask({ ...wish, start_at: null, ready_by: at })}
            onStop={() => stop.mutate()}
            onStart={(asPlanned) => setWanted({ asPlanned })}
          />
        </div>
      )}
      <div className="flex min-w-0 flex-col gap-3 lg:col-start-1 lg:row-span-2 lg:row-start-1">
        <h1 className="sr-only">The session: {plan?.name ?? "nothing yet"}</h1>
        <div className="flex flex-col gap-3 print:hidden">
          <OccasionPanel
            plan={plan}
            wish={wish}
            now={plan?.now ?? Date.now()}
            onWish={(next) => askInstead(next, next.occasion?.name ?? "The occasion")}
          />
          <SessionDoughs
            items={wish.items}
            plan={plan}
            fault={fault("items")}
            onItems={askItems}
            name={wish.name ?? null}
            onName={(name) => ask({ ...wish, name })}
          />
          <p role="status" className={said ? "flex flex-wrap items-center gap-3" : "sr-only"}>
            {said && (
              <>
                {said}
                <button type="button" className="press min-h-9" onClick={taking.back}>
                  Take that back
                </button>
              </>
            )}
          </p>
          <WishRow
            wish={wish}
            now={plan?.now ?? Date.now()}
            startAt={Math.max(plan?.start_at ?? 0, plan?.now ?? Date.now())}
            finishAt={plan?.finish_at ?? Date.now() + FIRST_GUESS_MS}
            fault={fault}
            onWish={ask}
            takeBack={taking.press}
          />
          <AwayTimes
            away={wish.away}
            now={plan?.now ?? Date.now()}
            fault={fault("away")}
            onAway={(away) => ask({ ...wish, away })}
          />
        </div>
        <Notice problem={make.error ?? make.failureReason ?? start.error ?? stop.error} />
        {plan && (
          <>
            <div className="print:hidden">
              <DayDrawing
                session={plan}
                until={until ?? 0}
                only={only}
                onOnly={setOnly}
                onPin={pin}
              />
              <Pins plan={plan} wish={wish} only={only} onWish={ask} />
            </div>
            <OtherPlan
              plan={plan}
              found={other}
              open={beside}
              onOpen={setBeside}
              onTake={(calm) => ask({ ...wish, calm })}
            />
            <RunSheet session={plan} pins={wish.pins} onPin={pin} />
            <More title="To buy, to weigh, and out of the cold">
              <ToWeigh plan={plan} />
            </More>
          </>
        )}
        {!plan && wish.items.length === 0 && <NothingPlanned />}
        <More title="To plan again">
          <SessionsAgain
            plan={plan}
            now={plan?.now ?? Date.now()}
            onAgain={({ next, name }) =>
              askInstead({ ...next, sheets: wish.sheets, shelves: wish.shelves }, name)
            }
          />
        </More>
        <More title="Files">
          <PlanFiles plan={plan} wish={wish} onWish={ask} />
        </More>
      </div>
      {plan && (
        <div className="flex flex-col gap-5 print:hidden">
          <PlanFigures plan={plan} />
          <Helps plan={plan} wish={wish} kitchen={kitchen} onWish={ask} />
        </div>
      )}
    </div>
  );
}

/** What will stand here once a dough is added; one press takes the dough that was opened last. */
function NothingPlanned() {
  const dough = useLastDough();
  const named = useQuery(doughQuery(dough)).data?.card.name;
  return (
    <ToStand
      example={<DayExample />}
      press={
        named ? (
          // The screen begins anew with it.
          <a href={`/plan/${dough}`} className="press press-main">
            Plan {named}
          </a>
        ) : (
          <Link to="/" className="press press-main">
            Choose a dough
          </Link>
        )
      }
    >
      Whose hands do what and when, where each tray is, what holds the finish up, and the run sheet
      of the day will stand here. Nothing is planned yet: add a dough.
    </ToStand>
  );
}

/** A part of the screen that is opened when it is wanted. */
function More({ title, children }: { title: string; children: React.ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="border-t border-ink pt-2 print:hidden"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer text-lg font-bold">{title}</summary>
      {open && <div className="mt-2">{children}</div>}
    </details>
  );
}
