import type { Kitchen, Tray, TraySetting } from "../../api/client";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { Stepper } from "../../parts/Stepper";
import { CutterFields } from "./CutterFields";
import type { Kind, Piece, PieceOf } from "./kinds";
import { OwnTool } from "./OwnTool";
import { PanFields } from "./PanFields";

interface FieldsProps {
  piece: Piece;
  tray: Tray | undefined;
  kitchen: Kitchen;
  evenness: TraySetting["evenness"];
  fault: (field: string) => string | undefined;
  onPiece: (change: (before: Piece) => Piece) => void;
  onEvenness: (evenness: TraySetting["evenness"]) => void;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
}

const EVENNESS = [
  ["weighed", "weighed"],
  ["scooped", "scooped"],
  ["spooned", "by spoon"],
] as const;

const SHAPES = [
  ["ball", "rolled to a ball"],
  ["left", "left as it falls"],
  ["tapped", "tapped"],
  ["pressed", "pressed flat"],
  ["dented", "dented, filled"],
] as const;

const FORMS = [
  ["straight", "straight"],
  ["ring", "a ring"],
  ["twist", "twisted"],
] as const;

interface Part<K extends Kind> extends Omit<FieldsProps, "piece"> {
  piece: PieceOf<K>;
  set: (part: Partial<PieceOf<K>>) => void;
}

/** What else is set for a kind, beside its handles. */
export function PortionFields(props: FieldsProps) {
  const { piece, onPiece } = props;
  const set = (part: object) => onPiece((before) => ({ ...before, ...part }) as Piece);
  return (
    <div className="flex flex-wrap items-start gap-x-3 gap-y-2">
      {piece.kind === "drop" && <DropFields {...props} piece={piece} set={set} />}
      {piece.kind === "rolled" && <RolledFields {...props} piece={piece} set={set} />}
      {piece.kind === "sliced" && <SlicedFields {...props} piece={piece} set={set} />}
      {piece.kind === "pan" && <PanFields fault={props.fault} piece={piece} set={set} />}
      {piece.kind === "rope" && (
        <Select
          label="Baked"
          value={piece.form ?? "straight"}
          options={FORMS}
          onChange={(form) => set({ form })}
        />
      )}
      {piece.kind === "twice_baked" && <TwiceFields {...props} piece={piece} set={set} />}
      {piece.kind === "wafer" && <WaferFields {...props} piece={piece} set={set} />}
    </div>
  );
}

function Millimetres<K extends Kind>(
  props: Part<K> & { field: keyof PieceOf<K> & string; label: string; unit?: string; by?: number },
) {
  const { piece, set, fault, field, label, unit = "mm", by = 1 } = props;
  return (
    <NumberField
      label={label}
      unit={unit}
      step={by}
      className="w-16 font-semibold"
      value={Number(piece[field] ?? 0)}
      fault={fault(field)}
      onChange={(value) => set({ [field]: value } as Partial<PieceOf<K>>)}
    />
  );
}

function DropFields(props: Part<"drop">) {
  const { piece, kitchen, evenness, set, onEvenness } = props;
  const scoop = kitchen.scoops?.find((s) => s.ml === piece.scoop_ml);
  return (
    <>
      <Select
        label="By"
        value={piece.scoop_ml == null ? "" : String(piece.scoop_ml)}
        options={[
          ["", "mass, weighed"],
          ...(scoop || piece.scoop_ml == null
            ? []
            : [[String(piece.scoop_ml), `${piece.scoop_ml} ml`] as const]),
          ...(kitchen.scoops ?? []).map((s) => [String(s.ml), `${s.name}, ${s.ml} ml`] as const),
        ]}
        onChange={(ml) => {
          set({ scoop_ml: ml ? Number(ml) : null });
          if (ml && evenness === "weighed") onEvenness("scooped");
          if (!ml) onEvenness("weighed");
        }}
      />
      {piece.scoop_ml != null && (
        <Select
          label="Filled"
          value={piece.heaped ? "heaped" : "level"}
          options={[
            ["level", "level"],
            ["heaped", "rounded"],
          ]}
          onChange={(filled) => set({ heaped: filled === "heaped" })}
        />
      )}
      {piece.scoop_ml != null && (
        <>
          <Millimetres {...props} field="scoop_ml" label="Scoop holds" unit="ml" by={0.5} />
          <OwnTool
            what="scoop"
            named={scoop?.name}
            suggested={`scoop ${piece.scoop_ml} ml`}
            onKeep={(name) =>
              props.onKitchen((before) => ({
                ...before,
                scoops: [
                  ...(before.scoops ?? []).filter((s) => s.name !== name),
                  { name, ml: piece.scoop_ml ?? 0 },
                ],
              }))
            }
            onForget={(name) =>
              props.onKitchen((before) => ({
                ...before,
                scoops: (before.scoops ?? []).filter((s) => s.name !== name),
              }))
            }
          />
        </>
      )}
      <Select label="Portions" value={evenness} options={EVENNESS} onChange={onEvenness} />
      <Select
        label="Then"
        value={piece.shape ?? "ball"}
        options={SHAPES}
        onChange={(shape) => set({ shape })}
      />
      {piece.shape === "pressed" && <Millimetres {...props} field="press_mm" label="To a height" />}
      {piece.shape === "dented" && (
        <Millimetres {...props} field="filling_g" label="Filling each" unit="g" />
      )}
      <details className="w-full">
        <summary className="cursor-pointer py-1 text-[0.9375rem] font-semibold">
          Dipped or topped
        </summary>
        <div className="flex gap-3">
          <Millimetres {...props} field="coat_g" label="Coat each" unit="g" />
          <Millimetres {...props} field="topping_g" label="Topping each" unit="g" />
        </div>
      </details>
    </>
  );
}

function RolledFields(props: Part<"rolled">) {
  const { piece, set } = props;
  return (
    <>
      <CutterFields
        piece={piece}
        kitchen={props.kitchen}
        fault={props.fault}
        onCutter={(cutter) => set({ cutter })}
        onKitchen={props.onKitchen}
      />
      <Stepper
        label="Rolled in parts"
        value={piece.parts ?? 2}
        range={[1, 8]}
        onChange={(parts) => set({ parts })}
      />
      <Millimetres {...props} field="web_mm" label="Web" by={0.5} />
      <Select
        label="Rolled"
        value={piece.papers ? "papers" : "bench"}
        options={[
          ["bench", "on a floured bench"],
          ["papers", "between two papers"],
        ]}
        onChange={(where) => set({ papers: where === "papers" })}
      />
      <Select
        label="Cut in"
        value={piece.staggered ? "staggered" : "rows"}
        options={[
          ["staggered", "staggered rows"],
          ["rows", "straight rows"],
        ]}
        onChange={(how) => set({ staggered: how === "staggered" })}
      />
    </>
  );
}

function SlicedFields(props: Part<"sliced">) {
  return (
    <>
      <Millimetres {...props} field="ends_mm" label="Trimmed each end" />
      <Millimetres {...props} field="longest_mm" label="Shelf takes" by={10} />
    </>
  );
}

function TwiceFields(props: Part<"twice_baked">) {
  const { tray, set } = props;
  const logs = tray?.second ? tray.yields.pieces : null;
  return (
    <>
      {tray && logs !== null && (
        <Stepper
          label="Logs, all of it"
          value={logs}
          range={[1, 30]}
          onChange={(n) =>
            set({ grams: Math.floor((10 * (tray.total_g - tray.yields.bowl_loss_g)) / n) / 10 })
          }
        />
      )}
      <Millimetres {...props} field="length_mm" label="Log long" by={5} />
      <Millimetres {...props} field="width_mm" label="Log wide" />
      <Millimetres {...props} field="lean_deg" label="Cut leans" unit="°" by={5} />
    </>
  );
}

function WaferFields(props: Part<"wafer">) {
  return (
    <>
      <Millimetres {...props} field="soft_s" label="Soft for" unit="s" by={5} />
      <Millimetres {...props} field="shape_s" label="Shaping one" unit="s" />
      <p className="text-[0.9375rem] text-caution">
        Hot wafers burn: curve them with a cloth, and keep children to the cool jobs.
      </p>
    </>
  );
}
