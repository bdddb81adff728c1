import type { Schemas, Words } from "../../api/client";
import { fine, mass, percent, span, wider } from "../../logic/format";

export type Differing = Schemas["Difference"];

const QUALITIES: Record<string, string> = {
  tender: "Bite",
  browning: "Colour",
  keeping: "Keeping",
};

/** What a change does, in a line or two: spread, bite, colour, keeping, allergens. */
export function DifferenceWords({ found }: { found: Differing }) {
  const { before, after } = found;
  const more =
    before.width_mm !== null && after.width_mm !== null ? after.width_mm - before.width_mm : null;
  return (
    <ul className="flex flex-wrap gap-x-5 gap-y-0.5 text-[0.9375rem]">
      {more !== null && (
        <li>
          <strong>{Math.abs(more) < 0.05 ? "±0" : wider(more)}</strong> wide
        </li>
      )}
      {found.qualities
        .filter((q) => q.words !== "about the same")
        .map((q) => (
          <li key={q.quality}>
            {QUALITIES[q.quality]}: <strong>{q.words}</strong>
          </li>
        ))}
      {found.allergens_added.length > 0 && (
        <li>
          <strong className="text-caution">Brings {found.allergens_added.join(", ")}</strong>
        </li>
      )}
      {found.allergens_gone.length > 0 && <li>without {found.allergens_gone.join(", ")}</li>}
    </ul>
  );
}

interface SideBySideProps {
  found: Differing;
  words: Words;
  names: [string, string];
  /** How each was baked, where versions are compared. */
  baked?: readonly [Baked | null | undefined, Baked | null | undefined];
}

type Baked = NonNullable<Schemas["VersionShown"]["baked"]>;

/** What the book says of a version's bakes. */
const MEASURED: readonly (readonly [string, (b: Baked) => string])[] = [
  ["Bakes in the book", (b) => `${b.bakes}`],
  ["Measured", (b) => (b.width_mm === null ? "–" : span(b.width_mm))],
  ["Took", (b) => (b.minutes === null ? "–" : `${b.minutes.toFixed(1)} min`)],
  ["To be baked again", (b) => `${b.again} of ${b.bakes}`],
  ["Went wrong", (b) => b.troubles.join(", ") || "nothing"],
];

/** Two cards side by side: grams, percent of the flour, and what follows. */
export function SideBySide({ found, words, names, baked }: SideBySideProps) {
  const name = (key: string) => words.ingredients.find((i) => i.key === key)?.name ?? key;
  const { before, after } = found;
  const figures: [string, (side: Differing["before"]) => string][] = [
    ["Dough", (s) => mass(s.total_g)],
    ["Sugars", (s) => pct(s.sugar_pct)],
    ["Fat", (s) => pct(s.fat_pct)],
    ["Water", (s) => pct(s.water_pct)],
    ["Baked piece", (s) => (s.width_mm === null ? "–" : span(s.width_mm))],
    ["Height", (s) => (s.height_mm === null ? "–" : fine(s.height_mm, 1))],
    ["Minutes", (s) => (s.minutes === null ? "–" : `${s.minutes.toFixed(0)} min`)],
  ];
  return (
    <table className="w-full">
      <thead>
        <tr className="border-b border-ink text-left text-[0.9375rem] text-soft">
          <th className="font-normal">ingredient</th>
          <th className="text-right font-normal" colSpan={2}>
            {names[0]}
          </th>
          <th className="text-right font-normal" colSpan={2}>
            {names[1]}
          </th>
        </tr>
      </thead>
      <tbody>
        {found.lines.map((line) => (
          <tr
            key={line.ingredient}
            className={`border-b border-line ${line.changed ? "font-semibold" : "text-soft"}`}
          >
            <td className="py-1">{name(line.ingredient)}</td>
            <td className="text-right">{line.before_g === null ? "–" : mass(line.before_g)}</td>
            <td className="text-right">{pct(line.before_pct)}</td>
            <td className="text-right">{line.after_g === null ? "–" : mass(line.after_g)}</td>
            <td className="text-right">{pct(line.after_pct)}</td>
          </tr>
        ))}
      </tbody>
      <tbody className="border-t-2 border-ink">
        {figures.map(([label, figure]) => (
          <tr key={label} className="border-b border-line">
            <td className="py-1">{label}</td>
            <td className="text-right font-semibold" colSpan={2}>
              {figure(before)}
            </td>
            <td className="text-right font-semibold" colSpan={2}>
              {figure(after)}
            </td>
          </tr>
        ))}
        {found.qualities.map((q) => (
          <tr key={q.quality} className="border-b border-line">
            <td className="py-1">{QUALITIES[q.quality]}</td>
            <td colSpan={2} />
            <td className="text-right font-semibold" colSpan={2}>
              {q.words}
            </td>
          </tr>
        ))}
      </tbody>
      {baked?.some(Boolean) && (
        <tbody className="border-t-2 border-ink">
          {MEASURED.map(([label, figure]) => (
            <tr key={label} className="border-b border-line">
              <td className="py-1">{label}</td>
              {baked.map((side, n) => (
                <td key={names[n]} className="text-right font-semibold" colSpan={2}>
                  {side ? figure(side) : "not baked"}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      )}
    </table>
  );
}

const pct = (value: number | null): string => (value === null ? "–" : `${percent(value)} %`);
