import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { type PieceOf, ways } from "../../logic/pieces";
import { pansQuery } from "../../logic/queries";
import { toolName } from "../../logic/toolNames";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";

interface PanFieldsProps {
  /** Of a kind that is baked in a pan. */
  piece: PieceOf<"pan">;
  ask: Schemas["Ask"];
  fault: (field: string) => string | undefined;
  set: (part: Partial<PieceOf<"pan">>) => void;
}

/** The pan: one that bakers have, or any by its shape and size. */
export function PanFields({ piece, ask, fault, set }: PanFieldsProps) {
  const pans = useQuery(pansQuery);
  const named = pans.data?.find(
    ({ pan }) =>
      pan.shape === piece.shape &&
      pan.across_mm === piece.across_mm &&
      (pan.shape !== "rectangle" || pan.down_mm === piece.down_mm),
  );
  const millimetres = (field: "across_mm" | "down_mm" | "wall_mm", label: string) => (
    <NumberField
      label={label}
      unit={ask.unit}
      step={ask.step}
      className="w-[4.75rem] font-semibold"
      value={piece[field]}
      fault={fault(field)}
      onChange={(value) => set({ [field]: value })}
    />
  );
  return (
    <>
      <Select
        label={ask.label}
        value={named?.name ?? ""}
        options={[
          ...(named ? [] : [["", "another"] as const]),
          ...(pans.data ?? []).map((p) => [p.name, toolName(p.name)] as const),
        ]}
        onChange={(name) => {
          const chosen = pans.data?.find((p) => p.name === name)?.pan;
          if (chosen) {
            const { shape, across_mm, down_mm, wall_mm } = chosen;
            set({ shape, across_mm, down_mm, wall_mm });
          }
        }}
      />
      <Select
        label="Shape"
        value={piece.shape}
        options={ways(ask)}
        onChange={(shape) => set({ shape: shape as typeof piece.shape })}
      />
      {millimetres("across_mm", "Across")}
      {piece.shape === "rectangle" && millimetres("down_mm", "Down")}
      {millimetres("wall_mm", "Wall")}
    </>
  );
}
