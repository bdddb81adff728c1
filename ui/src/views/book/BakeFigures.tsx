import type { Bake } from "../../api/client";
import { cm, signed } from "../../logic/format";
import { ColourPatch } from "../../parts/ColourStrip";
import type { BookWords } from "./changes";
import { VERDICTS } from "./SeenFields";

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
            <strong className="text-lg">{cm(bake.mean_mm)} cm</strong> measured,{" "}
            {cm(bake.foreseen_mm)} foreseen ({signed(bake.error_mm ?? 0)} mm)
          </span>
        )}
        {heights.length > 0 && <span>{mean(heights).toFixed(0)} mm high</span>}
        {bake.minutes !== null && (
          <span>
            <strong>{bake.minutes} min</strong>, {bake.foreseen_minutes.toFixed(1)} foreseen
          </span>
        )}
        {seen.oven_c != null && <span>{seen.oven_c.toFixed(0)} °C in the oven</span>}
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
