import { useState } from "react";
import type { Kitchen } from "../../api/client";
import { size, spanBy, volume } from "../../logic/format";
import { type Measure, scaleOf, typedIn } from "../../logic/measures";
import { hasDown } from "../../logic/pieces";
import { toolName } from "../../logic/toolNames";
import { Field } from "../../parts/Field";
import { Select } from "../../parts/Select";
import type { KitchenPart } from "./setting";

type Cutter = NonNullable<Kitchen["cutters"]>[number];

const SHAPES = [
  ["round", "round"],
  ["square", "square"],
  ["hexagon", "hexagon"],
  ["star", "star"],
  ["heart", "heart"],
] as const;

const round1 = (figure: number) => Math.round(figure * 10) / 10;

const box = ({ cutter }: Cutter): string =>
  hasDown(cutter) ? spanBy(cutter.across_mm, cutter.down_mm) : size(cutter.across_mm);

/** Scoops and cutters: what there is, one more, and one less. */
export function Tools({ kitchen, set, fault }: KitchenPart) {
  const scoops = kitchen.scoops ?? [];
  const cutters = kitchen.cutters ?? [];
  return (
    <section aria-label="Scoops and cutters" className="flex flex-col gap-2">
      <h2 className="heading">Scoops and cutters</h2>
      <ToolList
        tools={scoops.map((s) => [s.name, volume(s.ml)])}
        onRemove={(name) => set({ scoops: scoops.filter((s) => s.name !== name) })}
      />
      <NewScoop
        onScoop={(ml) =>
          set({
            scoops: [
              ...scoops.filter((s) => s.name !== `scoop ${round1(ml)} ml`),
              { name: `scoop ${round1(ml)} ml`, ml },
            ],
          })
        }
      />
      <ToolList
        tools={cutters.map((c) => [c.name, box(c)])}
        onRemove={(name) => set({ cutters: cutters.filter((c) => c.name !== name) })}
      />
      <NewCutter
        onCutter={(shape, mm) => {
          const name = `${shape} ${round1(mm / 10)} cm`;
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
            {toolName(name)}
            {!toolName(name).includes(size) && <span className="text-soft"> {size}</span>}
          </span>
          <button
            type="button"
            className="icon-press min-h-8 min-w-8"
            aria-label={`Take ${toolName(name)} away`}
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
  measure: Measure;
  text: string;
  onText: (text: string) => void;
}

function SizeField({ label, measure, text, onText }: SizeFieldProps) {
  return (
    <Field label={label} unit={scaleOf(measure).unit}>
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
  const ml = typedIn("volume", text);
  return (
    <form
      className="flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onScoop(ml);
        setText("");
      }}
    >
      <SizeField label="A scoop that holds" measure="volume" text={text} onText={setText} />
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
  const mm = typedIn("length", text);
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
      <SizeField label="Across" measure="length" text={text} onText={setText} />
      <button type="submit" className="press min-h-9" disabled={!(mm > 0)}>
        Add the cutter
      </button>
    </form>
  );
}
