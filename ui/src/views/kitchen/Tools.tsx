import { useState } from "react";
import type { Kitchen } from "../../api/client";
import { parse } from "../../logic/numbers";
import { Field } from "../../parts/Field";
import { Select } from "../../parts/Select";
import type { KitchenPart } from "./setting";

type Cutter = NonNullable<Kitchen["cutters"]>[number];

const SHAPES = [
  ["round", "round"],
  ["square", "square"],
  ["hexagon", "hexagon"],
] as const;

const size = ({ cutter }: Cutter): string =>
  cutter.shape === "rectangle" || cutter.shape === "own"
    ? `${cutter.across_mm} × ${cutter.down_mm} mm`
    : `${cutter.across_mm} mm`;

/** Scoops and cutters: what there is, one more, and one less. */
export function Tools({ kitchen, set, fault }: KitchenPart) {
  const scoops = kitchen.scoops ?? [];
  const cutters = kitchen.cutters ?? [];
  return (
    <section aria-label="Scoops and cutters" className="flex flex-col gap-2">
      <h2 className="heading">Scoops and cutters</h2>
      <ToolList
        tools={scoops.map((s) => [s.name, `${s.ml} ml`])}
        onRemove={(name) => set({ scoops: scoops.filter((s) => s.name !== name) })}
      />
      <NewScoop
        onScoop={(ml) =>
          set({
            scoops: [
              ...scoops.filter((s) => s.name !== `scoop ${ml} ml`),
              { name: `scoop ${ml} ml`, ml },
            ],
          })
        }
      />
      <ToolList
        tools={cutters.map((c) => [c.name, size(c)])}
        onRemove={(name) => set({ cutters: cutters.filter((c) => c.name !== name) })}
      />
      <NewCutter
        onCutter={(shape, mm) => {
          const name = `${shape} ${mm / 10} cm`;
          const cutter = { shape, across_mm: mm, down_mm: mm, area_cm2: null };
          set({ cutters: [...cutters.filter((c) => c.name !== name), { name, cutter }] });
        }}
      />
      {fault("scoops") && <p className="text-caution">{fault("scoops")}</p>}
      <p className="text-[0.9375rem] text-soft">
        A cutter with an outline of its own is kept from the Tray screen, where it is drawn.
      </p>
    </section>
  );
}

interface ToolListProps {
  tools: [string, string][];
  onRemove: (name: string) => void;
}

function ToolList({ tools, onRemove }: ToolListProps) {
  return (
    <ul className="flex flex-wrap gap-x-2 gap-y-1.5">
      {tools.map(([name, size]) => (
        <li key={name} className="flex items-center border border-line bg-sheet pl-2">
          <span>
            {name}
            {!name.includes(size) && <span className="text-soft"> {size}</span>}
          </span>
          <button
            type="button"
            className="icon-press min-h-8 min-w-8"
            aria-label={`Take ${name} away`}
            onClick={() => onRemove(name)}
          >
            ✕
          </button>
        </li>
      ))}
    </ul>
  );
}

interface SizeFieldProps {
  label: string;
  unit: string;
  text: string;
  onText: (text: string) => void;
}

function SizeField({ label, unit, text, onText }: SizeFieldProps) {
  return (
    <Field label={label} unit={unit}>
      {(named) => (
        <input
          {...named}
          className="w-18"
          inputMode="decimal"
          value={text}
          onChange={(event) => onText(event.target.value)}
        />
      )}
    </Field>
  );
}

function NewScoop({ onScoop }: { onScoop: (ml: number) => void }) {
  const [text, setText] = useState("");
  const ml = parse(text);
  return (
    <form
      className="flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onScoop(ml);
        setText("");
      }}
    >
      <SizeField label="A scoop that holds" unit="ml" text={text} onText={setText} />
      <button type="submit" className="press min-h-9" disabled={!(ml > 0)}>
        Add the scoop
      </button>
    </form>
  );
}

type Shape = (typeof SHAPES)[number][0];

function NewCutter({ onCutter }: { onCutter: (shape: Shape, mm: number) => void }) {
  const [shape, setShape] = useState<Shape>("round");
  const [text, setText] = useState("");
  const mm = parse(text);
  return (
    <form
      className="flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onCutter(shape, mm);
        setText("");
      }}
    >
      <Select label="A cutter, its outline" value={shape} options={SHAPES} onChange={setShape} />
      <SizeField label="Across" unit="mm" text={text} onText={setText} />
      <button type="submit" className="press min-h-9" disabled={!(mm > 0)}>
        Add the cutter
      </button>
    </form>
  );
}
