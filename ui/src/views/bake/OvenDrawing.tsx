import type { BakingSession } from "../../api/client";
import { shelfName } from "../../logic/day";
import { clock, countdown, dial } from "../../logic/format";
import { type InOven, stepOf } from "../../logic/jobs";

interface OvenProps {
  session: BakingSession;
  ovens: InOven[];
  now: number;
  busy: boolean;
  onMore: (bakeKey: string) => void;
  onOut: (outKey: string) => void;
}

/** The oven's shelves as they are: what is on each, how long, when to turn. */
export function OvenDrawing({ session, ovens, now, busy, onMore, onOut }: OvenProps) {
  const shelves = session.ovens.flatMap((most, oven) =>
    Array.from({ length: most }, (_, n) => ({ oven: oven + 1, shelf: n + 1, most })),
  );
  const several = session.ovens.length > 1;
  const dial = dialNow(session, ovens);
  return (
    <section aria-label="Oven">
      <h2 className="heading">
        Oven <span className="font-normal text-soft">{dial}</span>
      </h2>
      <div className="mt-2 border-2 border-ink bg-wash">
        {shelves.map(({ oven, shelf, most }) => {
          const here = ovens.find(
            (tray) => shelfNow(tray) === shelf && (tray.bake.oven ?? 1) === oven,
          );
          return (
            <div
              key={`${oven}.${shelf}`}
              className="min-h-20 border-b-4 border-ink px-4 pt-2 pb-1 last:border-b-0"
            >
              {here ? (
                <OnShelf tray={here} now={now} busy={busy} onMore={onMore} onOut={onOut} />
              ) : (
                <p className="pt-4 text-soft">
                  {shelfName(shelf, most, several ? oven : undefined)}: empty
                </p>
              )}
            </div>
          );
        })}
      </div>
    </section>
  );
}

/** Where a tray is: on the other's shelf once the two were swapped. */
const shelfNow = ({ bake, turn }: InOven): number =>
  (turn?.done_at != null ? turn.to_shelf : null) ?? bake.shelf ?? 1;

/** What the dial is to be at: as for what is inside, else for what goes in next. */
function dialNow(session: BakingSession, ovens: InOven[]): string {
  const inside = ovens[0] && stepOf(session, ovens[0].bake, "load");
  const load = inside ?? session.activities.find((a) => a.kind === "load" && a.done_at === null);
  return load?.dial_c != null ? `dial at ${dial(load.dial_c)}` : "";
}

interface OnShelfProps {
  tray: InOven;
  now: number;
  busy: boolean;
  onMore: (bakeKey: string) => void;
  onOut: (outKey: string) => void;
}

function OnShelf({ tray, now, busy, onMore, onOut }: OnShelfProps) {
  const left = tray.out.due_at - now;
  const share = Math.min(Math.max((now - tray.loadedAt) / (tray.out.due_at - tray.loadedAt), 0), 1);
  const turn = tray.turn;
  return (
    <div>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <strong className="text-3xl">{tray.tray}</strong>
        <span role="timer" className="text-4xl font-bold" data-countdown={tray.tray}>
          {left < 0 ? `${countdown(left)} over` : countdown(left)}
        </span>
      </div>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <span>
          out {clock(tray.out.due_at)}
          {turn && (turn.done_at === null ? `, turn ${clock(turn.due_at)}` : ", turned")}
        </span>
        <span className="flex gap-2">
          <button
            type="button"
            className="press min-h-11"
            disabled={busy}
            onClick={() => onMore(tray.bake.key)}
          >
            3 more minutes
          </button>
          <button
            type="button"
            className="press min-h-11"
            aria-label={`${tray.tray} is out early`}
            disabled={busy}
            onClick={() => onOut(tray.out.key)}
          >
            Out early
          </button>
        </span>
      </div>
      <svg
        aria-hidden="true"
        viewBox="0 0 100 3"
        preserveAspectRatio="none"
        className="mt-1 h-2 w-full"
      >
        <rect width={100} height={3} className="fill-sheet" />
        <rect width={100 * share} height={3} className="fill-yolk" />
      </svg>
    </div>
  );
}
