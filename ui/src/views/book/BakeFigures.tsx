import type { Bake } from "../../api/client";
import { degrees, fine, span, wider } from "../../logic/format";
import { VERDICTS } from "../../logic/verdicts";
import { ColourPatch } from "../../parts/ColourStrip";
import type { BookWords } from "./changes";

const mean = (all: readonly number[]) => all.reduce((sum, x) => sum + x, 0) / all.length;

/** A bake in figures and words, measured beside foreseen. */
export function BakeFigures({ bake, words }: { bake: Bake; words: BookWords }) {
  const { seen } = bake;
  const heights = seen.heights_mm ?? [];
  const felt = [...(seen.texture ?? []), ...(seen.tastes ?? [])];
  return (
    <>
      <p className="flex flex-wrap gap-x-6 gap-y-1">
        {bake.mean_mm !== null && (
          <span>
            <strong className="text-lg">{span(bake.mean_mm)}</strong>{" "}
            {bake.cut ? "the side of a cut piece" : "measured"}, {span(bake.foreseen_mm)} foreseen (
            {wider(bake.error_mm ?? 0)})
          </span>
        )}
        {heights.length > 0 && (
          <span>
            <strong>{fine(mean(heights))}</strong> high
            {bake.foreseen_height_mm !== null && `, ${fine(bake.foreseen_height_mm)} foreseen`}
          </span>
        )}
        {bake.minutes !== null && (
          <span>
            <strong>{bake.minutes} min</strong>, {bake.foreseen_minutes.toFixed(1)} foreseen
          </span>
        )}
        {seen.oven_c != null && <span>{degrees(seen.oven_c)} in the oven</span>}
        {bake.colour !== null && (
          <span>
            <ColourPatch step={bake.colour} /> {words.colours[bake.colour - 1]}
          </span>
        )}
      </p>
      {(felt.length > 0 || seen.edges || seen.verdict) && (
        <p>
          {[
            felt.join(", "),
            seen.edges && `${seen.edges} edges`,
            VERDICTS.find(([key]) => key === seen.verdict)?.[1],
          ]
            .filter(Boolean)
            .join("; ")}
        </p>
      )}
      {bake.note && <p className="break-words">{bake.note}</p>}
    </>
  );
}
