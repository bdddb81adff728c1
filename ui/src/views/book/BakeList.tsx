import type { Bake } from "../../api/client";
import { cm, date, signed } from "../../app/format";
import { ColourPatch } from "../../parts/ColourStrip";
import { Cross } from "../../parts/Cross";
import { Notice } from "../../parts/Notice";
import { useColours, useTakeOut } from "./queries";

/** Every bake of this dough, newest first. */
export function BakeList({ bakes }: { bakes: Bake[] }) {
  const takeOut = useTakeOut();
  const colours = useColours();
  return (
    <section aria-label="Bakes">
      <h2 className="heading">Bakes</h2>
      <Notice problem={takeOut.error} />
      {takeOut.isSuccess && (
        <p role="status" className="py-2">
          Taken out of the book.
        </p>
      )}
      <ul>
        {bakes.map((bake) => (
          <li
            key={bake.id}
            className="grid grid-cols-[4.5rem_minmax(0,1fr)_2rem] gap-x-4 border-b border-line py-2"
          >
            <strong>
              {date(bake.baked_at)}
              {bake.tray && <span className="block font-normal text-soft">{bake.tray}</span>}
            </strong>
            <div>
              <p className="flex flex-wrap gap-x-6 gap-y-1">
                {bake.mean_mm !== null && (
                  <span>
                    <strong className="text-lg">{cm(bake.mean_mm)} cm</strong> measured,{" "}
                    {cm(bake.foreseen_mm)} foreseen ({signed(bake.error_mm ?? 0)} mm)
                  </span>
                )}
                {bake.minutes !== null && (
                  <span>
                    <strong>{bake.minutes} min</strong>, {bake.foreseen_minutes.toFixed(1)} foreseen
                  </span>
                )}
                {bake.colour !== null && (
                  <span>
                    <ColourPatch step={bake.colour} /> {colours.data?.[bake.colour - 1]}
                  </span>
                )}
              </p>
              {bake.note && <p className="break-words">{bake.note}</p>}
              {bake.set_aside && (
                <p className="text-[0.9375rem]">
                  <strong className="text-caution">Set aside:</strong> so far from what was foreseen
                  that nothing was learnt from it.
                </p>
              )}
            </div>
            <button
              type="button"
              className="icon-press"
              aria-label={`Take the bake of ${date(bake.baked_at)} out of the book`}
              onClick={() => takeOut.mutate(bake.id)}
            >
              <Cross />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
