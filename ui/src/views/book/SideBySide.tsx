import type { Bake } from "../../api/client";
import { date, dial, fine, mass, span, spanBetween, wider } from "../../logic/format";
import { VERDICTS } from "../../logic/verdicts";
import { Counts } from "./Counts";
import type { BookWords } from "./changes";

type Row = readonly [string, (bake: Bake) => string];

const list = (all: readonly (number | string)[] | undefined, unit = "") =>
  all && all.length > 0 ? `${all.join(", ")}${unit}` : "–";

const rows = (words: BookWords): readonly Row[] => [
  ["version", (b) => (b.seen.version ? `v${b.seen.version}` : "–")],
  ["piece", (b) => mass(b.grams)],
  ["measured", (b) => (b.mean_mm === null ? "–" : span(b.mean_mm))],
  ["foreseen then", (b) => `${span(b.foreseen_mm)}, ${spanBetween(b.low_mm, b.high_mm)}`],
  ["off by", (b) => (b.error_mm === null ? "–" : wider(b.error_mm))],
  ["high", (b) => list(b.seen.heights_mm?.map((mm) => fine(mm)))],
  ["in the oven", (b) => (b.minutes === null ? "–" : `${b.minutes} min`)],
  ["foreseen", (b) => `${b.foreseen_minutes.toFixed(1)} min`],
  ["oven by thermometer", (b) => (b.seen.oven_c == null ? "–" : `${dial(b.seen.oven_c)}`)],
  ["colour", (b) => (b.colour === null ? "–" : (words.colours[b.colour - 1] ?? "–"))],
  ["texture", (b) => list(b.seen.texture)],
  ["edges", (b) => b.seen.edges ?? "–"],
  ["taste", (b) => list(b.seen.tastes)],
  ["went wrong", (b) => list(b.seen.troubles?.map((key) => words.troubles[key] ?? key))],
  ["next time", (b) => VERDICTS.find(([key]) => key === b.seen.verdict)?.[1] ?? "–"],
  ["note", (b) => b.note || "–"],
];

/** Two bakes beside each other; what differs is set bold. */
export function SideBySide({ pair, words }: { pair: readonly [Bake, Bake]; words: BookWords }) {
  const [a, b] = pair;
  return (
    <section aria-label="Side by side">
      <h2 className="heading">Side by side</h2>
      <table className="w-full">
        <thead className="text-left">
          <tr>
            <th aria-label="what" className="w-40" />
            {pair.map((bake) => (
              <th key={bake.id} className="py-1">
                {date(bake.baked_at)}
                {bake.tray && `, ${bake.tray}`}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(a.photo || b.photo) && (
            <tr className="border-t border-line">
              <th className="text-left font-normal text-soft">photo</th>
              {pair.map((bake) => (
                <td key={bake.id} className="py-1">
                  {bake.photo ? (
                    <img
                      src={`/api/bakes/${bake.id}/photo?${bake.photo}`}
                      alt={`The bake of ${date(bake.baked_at)}`}
                      className="max-h-48"
                    />
                  ) : (
                    "–"
                  )}
                </td>
              ))}
            </tr>
          )}
          {rows(words).map(([head, cell]) => {
            const [left, right] = [cell(a), cell(b)];
            const differ = left !== right ? "font-semibold" : "";
            return (
              <tr key={head} className="border-t border-line align-top">
                <th className="py-1 text-left font-normal text-soft">{head}</th>
                <td className={`py-1 pr-4 break-words ${differ}`}>{left}</td>
                <td className={`py-1 break-words ${differ}`}>{right}</td>
              </tr>
            );
          })}
          <tr className="border-t border-line align-top">
            <th className="py-1 text-left font-normal text-soft">learnt from</th>
            {pair.map((bake) => (
              <td key={bake.id} className="py-1 pr-4">
                <Counts bake={bake} />
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </section>
  );
}
