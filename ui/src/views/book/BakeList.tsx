import { Link } from "react-router";
import type { Bake } from "../../api/client";
import { date } from "../../logic/format";
import { Cross } from "../../parts/Cross";
import { Notice } from "../../parts/Notice";
import { BakeFigures } from "./BakeFigures";
import { Counts } from "./Counts";
import { type BookWords, usePhoto, useTakeOut } from "./changes";

interface BakeListProps {
  bakes: Bake[];
  words: BookWords;
  /** Names by number, where bakes of several doughs are listed. */
  names?: ReadonlyMap<number, string>;
  picked: number[];
  onPick: (id: number) => void;
  onTrouble?: (trouble: string, bakeId: number) => void;
}

/** Bakes, newest first. */
import { PhotoPresses } from "../../parts/photo/PhotoPresses";

export function BakeList({ bakes, words, names, picked, onPick, onTrouble }: BakeListProps) {
  const takeOut = useTakeOut();
  const photo = usePhoto();
  return (
    <section aria-label="Bakes">
      <h2 className="heading">
        Bakes
        <span className="text-[0.9375rem] font-normal text-soft">
          tick two to see them side by side
        </span>
      </h2>
      <Notice problem={takeOut.error ?? photo.error} />
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
            <div>
              <strong>{date(bake.baked_at)}</strong>
              {bake.tray && <span className="block text-soft">{bake.tray}</span>}
              {bake.seen.version && <span className="block text-soft">v{bake.seen.version}</span>}
              <label className="mt-1 flex items-center gap-1 text-[0.9375rem] text-soft">
                <input
                  type="checkbox"
                  className="min-h-6 min-w-6"
                  aria-label={`The bake of ${date(bake.baked_at)} side by side`}
                  checked={picked.includes(bake.id)}
                  onChange={() => onPick(bake.id)}
                />
              </label>
            </div>
            <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
              <div className="flex min-w-60 flex-1 flex-col gap-1">
                {names && (
                  <Link to={`/book/${bake.dough_id}`} className="font-semibold hover:underline">
                    {names.get(bake.dough_id) ?? "a dough that was thrown away"}
                  </Link>
                )}
                <BakeFigures bake={bake} words={words} />
                {onTrouble && (bake.seen.troubles ?? []).length > 0 && (
                  <p className="flex flex-wrap gap-2">
                    {bake.seen.troubles?.map((key) => (
                      <button
                        key={key}
                        type="button"
                        className="press min-h-8 px-2"
                        onClick={() => onTrouble(key, bake.id)}
                      >
                        {words.troubles[key] ?? key}: why?
                      </button>
                    ))}
                  </p>
                )}
                <Counts bake={bake} />
              </div>
              {bake.photo ? (
                <a href={`/api/bakes/${bake.id}/photo`} target="_blank" rel="noreferrer">
                  <img
                    src={`/api/bakes/${bake.id}/photo?${bake.photo}`}
                    alt={`The bake of ${date(bake.baked_at)}`}
                    className="h-24 w-32 border border-line object-cover"
                  />
                </a>
              ) : (
                <p className="flex flex-wrap items-start gap-2">
                  <PhotoPresses
                    onPhoto={(chosen) => photo.mutate({ bakeId: bake.id, photo: chosen })}
                  />
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
