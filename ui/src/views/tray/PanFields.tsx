import { useQuery } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { Stepper } from "../../parts/Stepper";
import type { PieceOf } from "./kinds";

interface PanFieldsProps {
  piece: PieceOf<"pan">;
  fault: (field: string) => string | undefined;
  set: (part: Partial<PieceOf<"pan">>) => void;
}

const SHAPES = [
  ["square", "square"],
  ["rectangle", "oblong"],
  ["round", "round"],
] as const;

/** The pan, and how it is scored. */
export function PanFields({ piece, fault, set }: PanFieldsProps) {
  const pans = useQuery({ queryKey: ["pans"], queryFn: () => body(api.GET("/api/pans")) });
  const named = pans.data?.find(
    ({ pan }) =>
      pan.shape === piece.shape &&
      pan.across_mm === piece.across_mm &&
      (pan.shape !== "rectangle" || pan.down_mm === piece.down_mm),
  );
  const millimetres = (field: "across_mm" | "down_mm" | "wall_mm", label: string) => (
    <NumberField
      label={label}
      unit="mm"
      step={5}
      className="w-16 font-semibold"
      value={piece[field]}
      fault={fault(field)}
      onChange={(value) => set({ [field]: value })}
    />
  );
  return (
    <>
      <Select
        label="Pan"
        value={named?.name ?? ""}
        options={[
          ...(named ? [] : [["", "another"] as const]),
          ...(pans.data ?? []).map((p) => [p.name, p.name] as const),
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
        options={SHAPES}
        onChange={(shape) => set({ shape })}
      />
      {millimetres("across_mm", "Across")}
      {piece.shape === "rectangle" && millimetres("down_mm", "Down")}
      {millimetres("wall_mm", "Wall")}
      {piece.shape === "round" ? (
        <Stepper
          label="Wedges"
          value={piece.wedges ?? 8}
          range={[2, 32]}
          onChange={(wedges) => set({ wedges })}
        />
      ) : (
        <>
          <Stepper
            label="Scored across"
            value={piece.scored_across ?? 4}
            range={[1, 30]}
            onChange={(scored_across) => set({ scored_across })}
          />
          <Stepper
            label="and down"
            value={piece.scored_down ?? 5}
            range={[1, 30]}
            onChange={(scored_down) => set({ scored_down })}
          />
        </>
      )}
      <p className="text-[0.9375rem]">
        Dock it, score it before it bakes, press the rim level, and re-cut along the scores within
        two minutes of taking it out; later it shatters.
      </p>
    </>
  );
}
