import type { Line, Words } from "../../api/client";
import { mass } from "../../logic/format";
import { othersOf, type Reading } from "../../logic/readings";
import { unitWord } from "../../logic/units";

interface OtherReadingsProps {
  line: Line;
  readings: Reading[];
  words: Words;
  onTake: (line: Line) => void;
}

/** What a written line can mean as well, each a press away. */
export function OtherReadings({ line, readings, words, onTake }: OtherReadingsProps) {
  const others = othersOf(line, readings);
  if (others.length === 0) return null;
  return (
    <span className="flex flex-wrap items-baseline gap-x-3 text-[0.9375rem]">
      <span className="text-soft">It can mean as well:</span>
      {others.map((other) => (
        <button
          key={`${other.line.amount} ${other.line.unit} ${other.line.ingredient}`}
          type="button"
          className="min-h-6 underline"
          onClick={() => onTake(other.line)}
        >
          {other.line.amount} {unitWord(other.line.unit)}{" "}
          {words.ingredients.find((one) => one.key === other.line.ingredient)?.name},{" "}
          {mass(other.grams)}
        </button>
      ))}
    </span>
  );
}
