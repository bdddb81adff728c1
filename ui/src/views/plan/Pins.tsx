import type { BakingSession } from "../../api/client";
import { shelfName } from "../../logic/day";
import { when } from "../../logic/format";
import { wordsOf } from "../../logic/jobs";
import type { Wish } from "../../logic/wish";

interface PinsProps {
  plan: BakingSession;
  wish: Wish;
  only: string | null;
  onWish: (wish: Wish) => void;
}

/** What the baker has put at a time or on a shelf, and the shelf of the tray that is looked at. */
export function Pins({ plan, wish, only, onWish }: PinsProps) {
  const pins = wish.pins;
  const shelves = wish.shelf_pins;
  const tray = plan.trays.find((t) => t.name === only);
  const most = plan.ovens[0] ?? 1;
  const pinned = shelves.find((p) => p.tray === tray?.name);
  const setShelf = (name: string, shelf: number) =>
    onWish({
      ...wish,
      shelf_pins: [
        ...shelves.filter((p) => p.tray !== name),
        ...(shelf > 0 ? [{ tray: name, shelf }] : []),
      ],
    });
  if (pins.length === 0 && shelves.length === 0 && !tray) return null;
  return (
    <section aria-label="Pins" className="flex flex-wrap items-center gap-x-4 gap-y-1">
      {tray && most > 1 && (
        <label className="flex items-center gap-2">
          {tray.name} bakes on
          <select
            value={pinned?.shelf ?? 0}
            onChange={(event) => setShelf(tray.name, Number(event.target.value))}
          >
            <option value={0}>any shelf</option>
            {Array.from({ length: most }, (_, n) => n + 1).map((n) => (
              <option key={n} value={n}>
                {shelfName(n, most)}
              </option>
            ))}
          </select>
        </label>
      )}
      {pins.map((pin) => {
        const job = plan.activities.find((a) => a.key === pin.job);
        return (
          <button
            key={pin.job}
            type="button"
            className="press min-h-8 px-2"
            onClick={() => onWish({ ...wish, pins: pins.filter((p) => p.job !== pin.job) })}
          >
            Unpin: {job ? wordsOf(job).short : pin.job} at {when(pin.start_at, plan.now)}
          </button>
        );
      })}
      {shelves
        .filter((p) => p.tray !== tray?.name)
        .map((p) => (
          <button
            key={p.tray}
            type="button"
            className="press min-h-8 px-2"
            onClick={() => setShelf(p.tray, 0)}
          >
            Unpin: {p.tray} on {shelfName(p.shelf, most).toLowerCase()}
          </button>
        ))}
    </section>
  );
}
