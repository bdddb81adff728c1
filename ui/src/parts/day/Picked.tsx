import type { Activity, BakingSession } from "../../api/client";
import { type Row, rowsOf } from "../../logic/day";
import { clock, length } from "../../logic/format";
import { isJob, wordsOf } from "../../logic/jobs";

interface PickedProps {
  session: BakingSession;
  activity: Activity | undefined;
  place: Row | undefined;
}

/** What was pressed in the day: an activity with its window, or a place with all that happens there. */
export function Picked({ session, activity, place }: PickedProps) {
  if (!activity && !place) return null;
  return (
    <div role="status" className="mt-2 border-l-4 border-enamel pl-3">
      {activity && (
        <p>
          <strong>
            {clock(activity.start_at)} to {clock(activity.end_at)}, {naming(activity)}
          </strong>
          {activity.hands &&
            session.workers.length > 1 &&
            `, ${session.workers[activity.who ?? 0]}`}
          . {windowWords(activity)}
        </p>
      )}
      {place && (
        <p>
          <strong>{place.label}:</strong>{" "}
          {session.activities
            .filter((a) => rowsOf(a).includes(place.key))
            .map((a) => `${clock(a.start_at)} ${naming(a)}`)
            .join("; ") || "nothing"}
          .
        </p>
      )}
    </div>
  );
}

const QUIET: Partial<Record<Activity["kind"], string>> = {
  chill: "in the cold",
  temper: "tempers",
  wait: "rests",
  stand: "stands",
  bake: "bakes",
  rest: "rests on the sheet",
  cool: "cools",
  set: "sets",
  sheet: "sheet cools and is lined",
};

function naming(a: Activity): string {
  if (isJob(a)) return wordsOf(a).short;
  const minutes = length((a.end_at - a.start_at) / 60_000);
  return `${a.tray ?? `dough ${a.dough}`} ${QUIET[a.kind] ?? a.kind} ${minutes}`;
}

/** How far a job could be moved while all others stay where they are. */
export function windowWords(a: Activity): string {
  if (a.earliest_at === null) return "";
  const earliest = clock(a.earliest_at);
  if (a.latest_at === null) return `It could begin from ${earliest} on.`;
  if (a.latest_at <= a.earliest_at) return "It cannot begin at another time.";
  return `It could begin from ${earliest} to ${clock(a.latest_at)}.`;
}
