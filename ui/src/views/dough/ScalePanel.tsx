import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { CardBody, Line, Schemas, Words } from "../../api/client";
import { BLANK, type Change } from "../../logic/draft";
import { mass } from "../../logic/format";
import { scalingQuery } from "../../logic/queries";
import { unitWord } from "../../logic/units";
import { Choice } from "../../parts/Choice";
import { Cross } from "../../parts/Cross";
import { IngredientPicker } from "../../parts/IngredientPicker";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";

type Scaling = Schemas["ScalingOut"];
type By = "factor" | "pieces" | "total" | "have";

const WAYS: readonly (readonly [By, string])[] = [
  ["factor", "Times"],
  ["pieces", "Pieces"],
  ["total", "Total"],
  ["have", "What there is"],
];
const FACTORS = ["1/2", "2/3", "1 1/2", "2", "3"];

interface ScalePanelProps {
  card: CardBody;
  words: Words;
  pieceG: number;
  change: (change: Change) => void;
}

/** Make more or less of it, and see what to weigh before the card is changed. */
export function ScalePanel({ card, words, pieceG, change }: ScalePanelProps) {
  const [by, setBy] = useState<By>("factor");
  const [factor, setFactor] = useState("2");
  const [pieces, setPieces] = useState(48);
  const [piece, setPiece] = useState(pieceG);
  const [total, setTotal] = useState(1000);
  const [have, setHave] = useState<Line[]>([BLANK]);
  const [bowl, setBowl] = useState(0);
  const [rounded, setRounded] = useState(false);
  const stock = have.filter((line) => line.ingredient && line.amount.trim());
  const wish = {
    factor: by === "factor" ? factor : null,
    pieces: by === "pieces" ? pieces : null,
    piece_g: by === "pieces" ? piece : null,
    total_g: by === "total" ? total : null,
    have: by === "have" ? stock : [],
    bowl_l: bowl > 0 ? bowl : null,
    rounded,
  };
  const ready = by !== "have" || stock.length > 0;
  const scaling = useQuery(scalingQuery(card, wish, ready));
  const found = ready && !scaling.error ? scaling.data : undefined;

  return (
    <div className="flex flex-col gap-4">
      <Choice label="Scale by" value={by} options={WAYS} onChange={setBy} />
      <div className="flex flex-wrap items-end gap-4">
        {by === "factor" && (
          <>
            <label className="flex flex-col text-[0.9375rem] text-soft">
              Times the card
              <input
                className="w-24 text-xl font-semibold text-ink"
                value={factor}
                maxLength={20}
                onChange={(event) => setFactor(event.target.value)}
              />
            </label>
            {FACTORS.map((one) => (
              <button
                key={one}
                type="button"
                className="press min-h-9 px-3"
                onClick={() => setFactor(one)}
              >
                × {one}
              </button>
            ))}
          </>
        )}
        {by === "pieces" && (
          <>
            <NumberField
              label="Pieces"
              value={pieces}
              onChange={(n) => setPieces(Math.max(Math.round(n), 1))}
            />
            <NumberField label="Each" measure="mass" value={piece} onChange={setPiece} />
          </>
        )}
        {by === "total" && (
          <NumberField label="Dough in all" measure="mass" value={total} onChange={setTotal} />
        )}
        <NumberField
          label="Bowl or mixer holds (0: any)"
          unit="l"
          value={bowl}
          onChange={(litres) => setBowl(Math.max(litres, 0))}
        />
        <label className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 min-h-0"
            checked={rounded}
            onChange={(event) => setRounded(event.target.checked)}
          />
          Round to what a cook measures
        </label>
      </div>
      {by === "have" && <Have have={have} setHave={setHave} card={card} words={words} />}
      <Notice problem={scaling.error} />
      {found && (
        <>
          <Facts
            found={found}
            words={words}
            onFactor={(text) => {
              setBy("factor");
              setFactor(text);
            }}
          />
          <ScaledLines found={found} card={card} words={words} />
          <button
            type="button"
            className="press press-main self-start"
            onClick={() =>
              change({
                do: "replace",
                card: found.card,
                reason: `Scaled × ${found.factor.toFixed(3).replace(/\.?0+$/, "")}`,
              })
            }
          >
            Change the card to this
          </button>
        </>
      )}
    </div>
  );
}

interface HaveProps {
  have: Line[];
  setHave: (have: Line[]) => void;
  card: CardBody;
  words: Words;
}

/** What there is: “104 g of eggs, 180 g of butter”. The scarcest decides. */
function Have({ have, setHave, card, words }: HaveProps) {
  const used = new Set(card.lines.map((line) => line.ingredient));
  const ingredients = words.ingredients.filter((i) => used.has(i.key));
  const write = (n: number, part: Partial<Line>) =>
    setHave(have.map((line, i) => (i === n ? { ...line, ...part } : line)));
  return (
    <ul aria-label="What there is" className="max-w-xl">
      {have.map((line, n) => {
        const units = ingredients.find((i) => i.key === line.ingredient)?.units ?? ["g"];
        return (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: a line has no name but its place
            key={n}
            className="grid grid-cols-[5rem_5rem_1fr_2rem] gap-2 py-0.5"
          >
            <input
              aria-label={`Amount there is, ${n + 1}`}
              className="text-right text-lg font-semibold"
              value={line.amount}
              maxLength={40}
              onChange={(event) => write(n, { amount: event.target.value })}
            />
            <select
              aria-label={`Unit of what there is, ${n + 1}`}
              value={line.unit}
              onChange={(event) => write(n, { unit: event.target.value as Line["unit"] })}
            >
              {units.map((unit) => (
                <option key={unit} value={unit}>
                  {unitWord(unit)}
                </option>
              ))}
            </select>
            <IngredientPicker
              label={`What there is, ${n + 1}`}
              ingredients={ingredients}
              value={line.ingredient}
              onChange={(ingredient) => write(n, { ingredient })}
            />
            <button
              type="button"
              className="icon-press"
              aria-label={`Take ${n + 1} out of what there is`}
              onClick={() => setHave(have.filter((_, i) => i !== n))}
            >
              <Cross />
            </button>
          </li>
        );
      })}
      <li>
        <button
          type="button"
          className="press mt-1 min-h-9"
          onClick={() => setHave([...have, BLANK])}
        >
          And also
        </button>
      </li>
    </ul>
  );
}

interface FactsProps {
  found: Scaling;
  words: Words;
  onFactor: (text: string) => void;
}

function Facts({ found, words, onFactor }: FactsProps) {
  const name = (key: string) => words.ingredients.find((i) => i.key === key)?.name ?? key;
  const { eggs, limits, near, mixes } = found;
  return (
    <div className="flex flex-col gap-1 border-l-4 border-ink pl-3 text-lg">
      <p>
        <strong data-figure="factor">× {found.factor.toFixed(3).replace(/\.?0+$/, "")}</strong>,{" "}
        {mass(found.total_g)} of dough.
      </p>
      {limits.length > 0 && (
        <p>
          <strong>{name(limits[0]?.ingredient ?? "")}</strong> is what limits it
          {limits
            .slice(1)
            .map((l) => `; ${mass(l.left_g)} of ${name(l.ingredient)} stays`)
            .join("")}
          .
        </p>
      )}
      {mixes > 1 && (
        <p>
          Too much for the bowl at once: <strong>{mixes} equal mixes</strong> of {mass(found.mix_g)}
          .
        </p>
      )}
      {eggs && eggs.spare_g > 0 && (
        <p>
          Eggs: beat {eggs.beat} and weigh in <strong>{mass(eggs.use_g)}</strong>; the other{" "}
          {mass(eggs.spare_g)} is egg wash, or keeps covered in the fridge until tomorrow.
        </p>
      )}
      {near.length > 0 && (
        <p className="flex flex-wrap items-center gap-2">
          Whole eggs:
          {near.map((n) => (
            <button
              key={n.text}
              type="button"
              className="press min-h-9 px-3 text-base"
              onClick={() => onFactor(n.text)}
            >
              {n.eggs} {n.eggs === 1 ? "egg" : "eggs"}, × {n.factor.toFixed(2)}, {mass(n.total_g)}
            </button>
          ))}
        </p>
      )}
    </div>
  );
}

interface ScaledLinesProps {
  found: Scaling;
  card: CardBody;
  words: Words;
}

function ScaledLines({ found, card, words }: ScaledLinesProps) {
  return (
    <table className="w-full">
      <thead>
        <tr className="border-b border-ink text-left text-[0.9375rem] text-soft">
          <th className="font-normal">ingredient</th>
          <th className="text-right font-normal">card</th>
          <th className="text-right font-normal">now</th>
          <th className="text-right font-normal">weight</th>
          <th className="text-right font-normal">to measure</th>
          <th className="text-right font-normal">off by</th>
        </tr>
      </thead>
      <tbody>
        {found.lines.map((line, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines may repeat, and have no other name
          <tr key={n} className="border-b border-line">
            <td className="py-1">
              {words.ingredients.find((i) => i.key === line.ingredient)?.name ?? "not chosen"}
            </td>
            <td className="text-right text-soft">
              {card.lines[n]?.amount} {unitWord(line.unit)}
            </td>
            <td className="text-right font-semibold">
              {short(line.amount)} {unitWord(line.unit)}
            </td>
            <td className="text-right">{line.grams === null ? "–" : mass(line.grams)}</td>
            <td className="text-right">{line.kitchen}</td>
            <td className="text-right">
              {line.noted
                ? `${line.error_pct > 0 ? "+" : "−"}${Math.abs(line.error_pct).toFixed(0)} %`
                : ""}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Long decimals are exact in the card, and short here. */
const short = (amount: string): string =>
  amount.replace(/\d+\.\d+/g, (n) => String(Number(Number(n).toPrecision(4))));
