import { useMutation } from "@tanstack/react-query";
import {
  api,
  body,
  type CardBody,
  type Ingredient,
  type Study,
  type Unit,
  type Weighed,
  type Words,
} from "../../api/client";
import type { DraftLine, DraftPart, LineChange } from "../../logic/draft";
import { mass, percent } from "../../logic/format";
import { type Home, halfOf, type Moving } from "../../logic/moving";
import type { Reading } from "../../logic/readings";
import { OF_EGGS, PLAIN_UNITS, unitWord } from "../../logic/units";
import { IngredientPicker } from "../../parts/IngredientPicker";
import { RowButtons } from "../../parts/RowButtons";
import { DRAGGED } from "./dragged";
import { OtherReadings } from "./OtherReadings";
import { PART_OPTIONS } from "./partKinds";

interface LineProps {
  line: DraftLine;
  place: number;
  last: boolean;
  weighed: Weighed["lines"][number] | undefined;
  /** In the baker's own units; absent when those are grams. */
  own: Study["own"][number] | undefined;
  faults: Weighed["faults"];
  checked: boolean;
  most: number;
  words: Words;
  cupOfDough: CardBody["cup"];
  eggOfDough: CardBody["egg"];
  of: string;
  change: (change: LineChange) => void;
  home: "dough" | number;
  parts: DraftPart[];
  onMoving: (change: Moving) => void;
  /** What each written line can mean. */
  readings: ReadonlyMap<string, Reading[]>;
}

const untouched = (line: DraftLine) =>
  line.amount === "" && line.ingredient === null && line.text === "";

export function Line(props: LineProps) {
  const { line, place, last, weighed, own, most, words, of, change } = props;
  // A fresh line is not scolded, and one that was not understood says so in its own words.
  const unread = line.ingredient === null && line.text !== "";
  const faults = untouched(line) || unread ? [] : props.faults;
  const chosen = words.ingredients.find((i) => i.key === line.ingredient);
  const units: Unit[] = chosen ? [...chosen.units, ...OF_EGGS] : PLAIN_UNITS;
  const fault = (field: string) => faults.find((f) => f.field === `lines.${place}.${field}`);
  const write = (part: Partial<DraftLine>) => change({ do: "line", id: line.id, part });
  const name = `${of}line ${place + 1}`;
  const choose = useChoose(line, words, write);

  return (
    <li
      onKeyDown={(event) => {
        const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : null;
        // In a list of choices these keys open it.
        if (!event.altKey || by === null || event.target instanceof HTMLSelectElement) return;
        event.preventDefault();
        props.onMoving({ do: "stepLine", id: line.id, by });
      }}
      className={`relative border-b border-line py-0.5 ${props.checked ? "before:absolute before:inset-y-0 before:-left-2 before:w-1 before:bg-caution" : ""}`}
    >
      <div className="card-line items-center">
        <input
          aria-label={`Amount, ${name}`}
          aria-invalid={Boolean(fault("amount"))}
          className={`border-transparent text-right font-semibold ${line.amount.length > 5 ? "px-0.5 text-base" : "text-lg"} [font-variant-numeric:diagonal-fractions] hover:border-line`}
          value={line.amount}
          maxLength={40}
          autoComplete="off"
          onChange={(event) => write({ amount: event.target.value })}
        />
        <select
          aria-label={`Unit, ${name}`}
          aria-invalid={Boolean(fault("unit"))}
          className="border-transparent px-1 hover:border-line"
          value={line.unit}
          onChange={(event) => write({ unit: event.target.value as Unit })}
        >
          {(units.includes(line.unit) ? units : [...units, line.unit]).map((unit) => (
            <option key={unit} value={unit}>
              {unitWord(unit)}
            </option>
          ))}
        </select>
        <IngredientPicker
          label={`Ingredient, ${name}`}
          ingredients={words.ingredients}
          value={line.ingredient}
          onChange={choose}
          fault={fault("ingredient")?.message}
        />
        <span className="wide">
          <TakenAs {...props} chosen={chosen} name={name} write={write} />
        </span>
        <span className="text-right text-lg" data-figure="grams">
          {weighed?.grams == null ? "–" : mass(weighed.grams)}
        </span>
        {own !== undefined && (
          <span className="wide text-right" data-figure="own">
            {own?.text ?? "–"}
            {own?.noted && (
              <small className="block text-soft">
                {own.error_pct > 0 ? "+" : "−"}
                {Math.abs(own.error_pct).toFixed(0)} %
              </small>
            )}
          </span>
        )}
        <span className="text-right" data-figure="percent">
          {weighed?.percent == null ? "–" : percent(weighed.percent)}
        </span>
        <PercentBar percent={weighed?.percent ?? 0} most={most} />
        <Where {...props} name={name} />
        <RowButtons
          name={name}
          first={place === 0}
          last={last}
          onMove={(by) => change({ do: "move", id: line.id, by })}
          onRemove={() => change({ do: "remove", id: line.id })}
        />
      </div>
      {unread && (
        <p className="pb-1 text-[0.9375rem]">
          The card says “{line.text}”. Choose what that is; it is remembered for the next card.
        </p>
      )}
      <OtherReadings
        line={line}
        readings={props.readings.get(line.text) ?? []}
        words={words}
        onTake={({ amount, unit, ingredient, cup, egg }) =>
          write({ amount, unit, ingredient, cup: cup ?? null, egg: egg ?? null, chosen: "" })
        }
      />
      {line.ingredient !== null && line.amount.trim() === "" && (
        <p className="pb-1 text-[0.9375rem]">No amount: it counts as nothing until there is one.</p>
      )}
      {faults.map((f) => (
        <p key={f.field} className="pb-1 text-[0.9375rem] text-caution">
          {f.message}
        </p>
      ))}
    </li>
  );
}

/** What a line is for: chosen otherwise, or dragged, it goes there; half of it stays if wanted. */
function Where({ line, name, home, parts, onMoving }: LineProps & { name: string }) {
  const others = PART_OPTIONS.filter(([kind]) => !parts.some((part) => part.kind === kind));
  const homes: (readonly [string, string])[] = [
    ["dough", "dough"],
    ...parts.map((part) => [`part ${part.id}`, part.name] as const),
    ...others.map(([kind, label]) => [kind, label.toLowerCase()] as const),
  ];
  const read = (key: string): Home =>
    key.startsWith("part ") ? Number(key.slice(5)) : (key as Home);
  const here = home === "dough" ? "dough" : `part ${home}`;
  return (
    <span className="wide flex items-center">
      <span
        aria-hidden="true"
        draggable
        title="Drag this line"
        data-drag={name}
        className="cursor-grab px-1 text-soft select-none"
        onDragStart={(event) => {
          event.dataTransfer.setData(DRAGGED, String(line.id));
          const row = event.currentTarget.closest("li");
          if (row) event.dataTransfer.setDragImage(row, 0, 0);
        }}
      >
        ⠿
      </span>
      <select
        aria-label={`For, ${name}`}
        className="w-full min-w-0 border-transparent px-0 text-[0.9375rem] hover:border-line"
        value={here}
        onChange={(event) => {
          const [half, to] = [event.target.value.startsWith("half "), event.target.value];
          if (half) onMoving({ do: "splitLine", id: line.id, to: read(to.slice(5)) });
          else onMoving({ do: "moveLine", id: line.id, to: read(to) });
        }}
      >
        {homes.map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
        {halfOf(line.amount) !== null && (
          <optgroup label="Half of it for">
            {homes
              .filter(([key]) => key !== here)
              .map(([key, label]) => (
                <option key={key} value={`half ${key}`}>
                  {label}
                </option>
              ))}
          </optgroup>
        )}
      </select>
    </span>
  );
}

/** Choosing the ingredient of a line that was not understood teaches its name, and reads it again. */
function useChoose(line: DraftLine, words: Words, write: (part: Partial<DraftLine>) => void) {
  const teach = useMutation({
    mutationFn: async (key: string) => {
      const before = await body(api.POST("/api/read", { body: { text: line.text } }));
      const name = before.lines[0]?.name;
      if (!name) return null;
      await body(api.POST("/api/names", { body: { name, ingredient: key } }));
      return body(api.POST("/api/read", { body: { text: line.text } }));
    },
    onSuccess: (read) => {
      const found = read?.lines[0]?.line;
      if (found?.ingredient && found.amount && !line.amount) write(found);
    },
  });
  return (key: string) => {
    const ingredient = words.ingredients.find((i) => i.key === key);
    const fits = OF_EGGS.includes(line.unit) || ingredient?.units.includes(line.unit);
    write({ ingredient: key, ...(fits ? {} : { unit: ingredient?.natural_unit?.unit ?? "g" }) });
    if (line.ingredient === null && line.text) teach.mutate(key);
  };
}

interface TakenAsProps extends LineProps {
  chosen: Ingredient | undefined;
  name: string;
  write: (part: Partial<DraftLine>) => void;
}

const isRange = (amount: string) => /\d\s*(?:[-–—]|\bto\b|\bor\b)\s*[\d.,]/.test(amount);

/** What the grams rest on: how the cup is filled, which egg, or what is taken of a range. */
function TakenAs({ line, weighed, words, chosen, name, write, ...props }: TakenAsProps) {
  if (weighed?.range_g || isRange(line.amount)) {
    return (
      <label className="flex items-center gap-1 text-[0.9375rem]">
        take
        <input
          aria-label={`Taken of the range, ${name}`}
          className="w-16 text-right"
          value={line.chosen}
          placeholder="middle"
          maxLength={40}
          onChange={(event) => write({ chosen: event.target.value })}
        />
        {unitWord(line.unit)}
      </label>
    );
  }
  if (chosen?.depends_on_habit && ["cup", "tbsp", "tsp", "ml", "dl"].includes(line.unit)) {
    return (
      <select
        aria-label={`Cups, ${name}`}
        className="w-full border-transparent px-1 text-[0.9375rem] hover:border-line"
        value={line.cup ?? ""}
        onChange={(event) => write({ cup: (event.target.value || null) as DraftLine["cup"] })}
      >
        <option value="">{props.cupOfDough ?? weighed?.assumed ?? "as the kitchen"}</option>
        {words.cups
          .filter((cup) => cup !== (line.cup ? null : weighed?.assumed))
          .map((cup) => (
            <option key={cup} value={cup}>
              {cup}
            </option>
          ))}
      </select>
    );
  }
  if (chosen?.role === "egg" && chosen.natural_unit?.unit === line.unit) {
    return (
      <select
        aria-label={`Eggs, ${name}`}
        className="w-full border-transparent px-1 text-[0.9375rem] hover:border-line"
        value={line.egg ?? ""}
        onChange={(event) => write({ egg: event.target.value || null })}
      >
        <option value="">
          {props.eggOfDough ?? (line.egg ? "as the kitchen" : weighed?.assumed)}
        </option>
        {words.eggs.map((egg) => (
          <option key={egg.key} value={egg.key}>
            {egg.key}
          </option>
        ))}
      </select>
    );
  }
  return null;
}

/** The line's percentage as a length, with marks every quarter of the flour. */
function PercentBar({ percent: value, most }: { percent: number; most: number }) {
  return (
    <svg
      aria-hidden="true"
      viewBox={`0 0 ${most} 10`}
      preserveAspectRatio="none"
      className="bar h-4 w-full"
    >
      {[25, 50, 75, 100].map((x) => (
        <line
          key={x}
          x1={x}
          x2={x}
          y1={0}
          y2={10}
          className="stroke-line"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <rect y={2.5} width={value} height={5} className="fill-enamel" />
    </svg>
  );
}
