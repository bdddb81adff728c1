import { useQuery } from "@tanstack/react-query";
import { Link, NavLink, useLocation } from "react-router";
import { type BakingSession, isElsewhere } from "../api/client";
import { daysLeft } from "../logic/daysLeft";
import { when } from "../logic/format";
import { jobNow, wordsOf } from "../logic/jobs";
import { coldQuery } from "../logic/queries";
import { useRinger } from "../parts/calling/useRinger";
import { useSendsWhatWaits } from "../parts/said/outbox";
import { useSession } from "../parts/said/useSession";
import { useAtTheOven } from "../parts/useAtTheOven";
import { useLastDough } from "../parts/useLastDough";
import { useNow } from "../parts/useNow";
import { Alarms } from "./Alarms";
import { nextColours } from "./colours";
import { DemoBar } from "./DemoBar";
import { Find } from "./Find";
import { KeySheet } from "./KeySheet";
import { Safe } from "./Screens";
import { useStream } from "./stream";
import { Told } from "./Told";
import { Undo } from "./Undo";

const STAGES = [
  ["Today", ""],
  ["Dough", "dough"],
  ["Tray", "tray"],
  ["Plan", "plan"],
  ["Bake", "bake"],
  ["Book", "book"],
] as const;

const BESIDE = [
  ["Cold store", "/cold"],
  ["Larder", "/larder"],
  ["Kitchen", "/kitchen"],
] as const;

/** What a tablet by the oven goes between. */
const AT_THE_OVEN: readonly string[] = ["", "bake", "book", "/cold"];

const STAGE =
  "group relative flex min-h-12 w-20 items-center border-l border-ink pl-2.5 text-lg last:border-r max-sm:w-auto max-sm:flex-1 max-sm:pl-2";

/** The marks of the tape below a stage, yolk yellow where one is. */
function Ticks() {
  return (
    <svg
      aria-hidden="true"
      viewBox="0 0 100 8"
      preserveAspectRatio="none"
      className="absolute inset-x-0 bottom-0 h-2 w-full"
    >
      <rect
        width="100"
        height="8"
        className="fill-transparent group-aria-[current=page]:fill-yolk"
      />
      {[20, 40, 60, 80].map((x) => (
        <line
          key={x}
          x1={x}
          x2={x}
          y1={3}
          y2={8}
          className="stroke-ink"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

/** The stages of the work as the marks of a tape measure, in the order in which bakers go. */
function Tape() {
  const dough = useLastDough();
  const atTheOven = useAtTheOven();
  const stages = STAGES.filter(([, path]) => !atTheOven || AT_THE_OVEN.includes(path));
  return (
    <nav aria-label="Stages" className="flex self-stretch max-sm:order-3 max-sm:w-full">
      {stages.map(([name, path]) => {
        const whole = path === "" || path === "bake" || path === "plan";
        const to = whole ? `/${path}` : dough ? `/${path}/${dough}` : "/dough";
        // Without a dough yet, all stages begin at the drawer, and only the first is where one is.
        if (to === "/dough" && path !== "dough") {
          return (
            <Link key={path} to={to} className={`${STAGE} text-soft hover:text-ink`}>
              {name}
              <Ticks />
            </Link>
          );
        }
        return (
          <NavLink
            key={path}
            to={to}
            end={path === ""}
            className={({ isActive }) =>
              `${STAGE} ${isActive ? "font-bold" : "text-soft hover:text-ink"}`
            }
          >
            {name}
            <Ticks />
          </NavLink>
        );
      })}
    </nav>
  );
}

const SAYING =
  "min-h-11 min-w-0 truncate text-right leading-snug hover:underline max-sm:w-full max-sm:text-left";

/** Which session is on, and what comes next in it. */
function SessionLine() {
  const { data: session } = useSession();
  const now = useNow(session);
  // On a phone or a tablet there is no room to say it twice.
  const { pathname } = useLocation();
  if (!session) return <DueSoon />;
  if (session.state === "given_up") return <DueSoon />;
  const saying = pathname === "/bake" ? `${SAYING} max-lg:hidden` : SAYING;
  if (session.state === "finished") {
    return (
      <Link to="/bake" className={SAYING}>
        <strong>{session.name}</strong>: all out
        <br />
        what came of it?
      </Link>
    );
  }
  const next = jobNow(session, now);
  return (
    <Link to="/bake" className={saying}>
      <span className="flex justify-end max-sm:justify-start">
        <strong className="truncate">{lettersOrName(session)}</strong>
        <span className="flex-none">, ready {when(session.finish_at, now)}</span>
      </span>
      {next && (
        <span>
          next: {wordsOf(next).short}, {when(next.due_at, now)}
        </span>
      )}
    </Link>
  );
}

/** Which doughs they are, where there are several: their names would be cut short. */
const lettersOrName = ({ doughs, name }: BakingSession): string =>
  doughs.length > 1 ? doughs.map((dough) => dough.letter).join(", ") : name;

/** What in the cold store is due soon; else that nothing is on. */
function DueSoon() {
  const store = useQuery(coldQuery);
  const soon = (store.data?.kept ?? []).filter((item) => item.soon);
  const first = soon[0];
  if (!first || !store.data) return <p className="text-right text-soft">Nothing in the oven.</p>;
  return (
    <Link to="/cold" className={SAYING}>
      <strong>{first.name}</strong>
      <br />
      {first.form_words} in the {first.place}: {daysLeft(first, store.data.now)}
      {soon.length > 1 && `, and ${soon.length - 1} more`}
    </Link>
  );
}

export function Shell({ children }: { children: React.ReactNode }) {
  const { data: session } = useSession();
  const rings = useRinger(session?.state === "running");
  useStream(rings);
  useSendsWhatWaits();
  const atTheOven = useAtTheOven();
  const beside = [
    ...BESIDE.filter(([, to]) => !atTheOven || AT_THE_OVEN.includes(to)),
    ...(isElsewhere() ? ([["This device", "/network"]] as const) : []),
  ];
  return (
    <div className="flex min-h-dvh flex-col">
      <a
        href="#main"
        className="absolute left-2 top-2 z-20 -translate-y-20 bg-yolk px-3 py-2 font-bold text-dark focus:translate-y-0"
      >
        To the screen
      </a>
      <header className="flex min-h-16 flex-wrap items-center gap-x-5 border-b lg:flex-nowrap border-ink bg-sheet px-5 max-sm:px-3">
        <Link to="/" className="py-2 text-2xl font-bold whitespace-nowrap text-enamel">
          Fine Batch
        </Link>
        <Tape />
        <div className="ml-auto flex min-w-0 items-center gap-x-3 py-1 text-[0.9375rem] max-sm:w-full max-sm:flex-wrap">
          <Safe instead={() => null}>
            <SessionLine />
          </Safe>
          {beside.map(([name, to]) => (
            <NavLink
              key={to}
              to={to}
              className={({ isActive }) =>
                `inline-flex min-h-11 items-center text-lg whitespace-nowrap ${isActive ? "border-b-4 border-yolk font-bold" : "text-soft hover:text-ink"}`
              }
            >
              {name}
            </NavLink>
          ))}
          <Find />
          <KeySheet />
          <button
            type="button"
            className="icon-press min-h-11 min-w-11"
            onClick={nextColours}
            aria-label="Day or evening colours"
          >
            <svg aria-hidden="true" width="20" height="20" viewBox="0 0 20 20">
              <circle cx="10" cy="10" r="7.5" fill="none" stroke="currentColor" strokeWidth="1.5" />
              <path d="M10 2.5a7.5 7.5 0 0 1 0 15z" fill="currentColor" />
            </svg>
          </button>
        </div>
      </header>
      <DemoBar />
      <Told />
      <Undo />
      <main id="main" className="flex flex-1 flex-col">
        {children}
      </main>
      <Alarms rings={rings} />
    </div>
  );
}
