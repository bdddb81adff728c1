import type { Kitchen, Schemas } from "../../api/client";
import { hasDown, type PieceOf, ways } from "../../logic/pieces";
import { toolName } from "../../logic/toolNames";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { OwnTool } from "./OwnTool";

type Cutter = PieceOf<"rolled">["cutter"];

interface CutterFieldsProps {
  cutter: Cutter;
  ask: Schemas["Ask"];
  kitchen: Kitchen;
  fault: (field: string) => string | undefined;
  onCutter: (cutter: Cutter) => void;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
}

/** Centimetres, in the name of a cutter. */
const tenths = (mm: number) => Math.round(mm) / 10;

const same = (a: Cutter, b: Cutter) =>
  a.shape === b.shape &&
  a.across_mm === b.across_mm &&
  (hasDown(a) ? a.down_mm === b.down_mm : true);

/** One of the kitchen's cutters, or any by its outline, box and area. */
export function CutterFields({
  cutter,
  ask,
  kitchen,
  fault,
  onCutter,
  onKitchen,
}: CutterFieldsProps) {
  const named = kitchen.cutters?.find((c) => same(c.cutter, cutter));
  const boxed = hasDown(cutter);
  return (
    <>
      <Select
        label={ask.label}
        value={named?.name ?? ""}
        options={[
          ...(named ? [] : [["", "another"] as const]),
          ...(kitchen.cutters ?? []).map((c) => [c.name, toolName(c.name)] as const),
        ]}
        onChange={(name) => {
          const chosen = kitchen.cutters?.find((c) => c.name === name);
          if (chosen) onCutter(chosen.cutter);
        }}
      />
      <Select
        label="Outline"
        value={cutter.shape}
        options={ways(ask)}
        onChange={(shape) =>
          onCutter({
            ...cutter,
            shape: shape as Cutter["shape"],
            area_cm2:
              shape === "own"
                ? Math.round((ask.share * cutter.across_mm * cutter.down_mm) / 100)
                : null,
          })
        }
      />
      {boxed && (
        <NumberField
          label="Cutter down"
          measure="length"
          step={1}
          className="w-[4.75rem] font-semibold"
          value={cutter.down_mm}
          fault={fault("down_mm")}
          onChange={(down_mm) => onCutter({ ...cutter, down_mm })}
        />
      )}
      {cutter.shape === "own" && (
        <NumberField
          label="It cuts out"
          measure="area"
          step={1}
          className="w-[4.75rem] font-semibold"
          value={cutter.area_cm2 ?? 0}
          fault={fault("area_cm2")}
          onChange={(area_cm2) => onCutter({ ...cutter, area_cm2 })}
        />
      )}
      <OwnTool
        what="cutter"
        named={named?.name}
        suggested={`${cutter.shape === "own" ? "cutter" : cutter.shape} ${tenths(cutter.across_mm)}${boxed ? ` × ${tenths(cutter.down_mm)}` : ""} cm`}
        onKeep={(name) =>
          onKitchen((before) => ({
            ...before,
            cutters: [...(before.cutters ?? []).filter((c) => c.name !== name), { name, cutter }],
          }))
        }
        onForget={(name) =>
          onKitchen((before) => ({
            ...before,
            cutters: (before.cutters ?? []).filter((c) => c.name !== name),
          }))
        }
      />
    </>
  );
}
