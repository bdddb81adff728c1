import type { Schemas } from "../../api/client";
import { volume } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { toolName } from "../../logic/toolNames";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import type { FieldsProps } from "./fields";
import { OwnTool } from "./OwnTool";

interface ScoopFieldsProps extends FieldsProps {
  piece: PieceOf<"drop">;
  ask: Schemas["Ask"];
  set: (part: Partial<PieceOf<"drop">>) => void;
}

const BALL = "ball";

/** How wide a ball of the piece's dough is now, in mm. */
const ballOf = (tray: FieldsProps["tray"]): number =>
  Math.round(10 * Math.cbrt((6 * (tray?.raw.volume_cm3 ?? 22)) / Math.PI));

/** By mass, by a ball's width, or by one of the kitchen's scoops, level or rounded. */
export function ScoopFields(props: ScoopFieldsProps) {
  const { piece, ask, kitchen, setting, tray, set, onEvenness, onKitchen } = props;
  const ml = piece.scoop_ml ?? null;
  const ball = ml === null ? (piece.ball_mm ?? null) : null;
  const scoop = kitchen.scoops?.find((s) => s.ml === ml);
  return (
    <>
      <Select
        label={ask.label}
        value={ml !== null ? String(ml) : ball !== null ? BALL : ""}
        options={[
          ["", "mass, weighed"],
          [BALL, "a ball’s width"],
          ...(scoop || ml === null ? [] : [[String(ml), volume(ml)] as const]),
          ...(kitchen.scoops ?? []).map(
            (s) => [String(s.ml), `${toolName(s.name)}, ${volume(s.ml)}`] as const,
          ),
        ]}
        onChange={(chosen) => {
          if (chosen === BALL) {
            set({ scoop_ml: null, ball_mm: ballOf(tray) });
            return;
          }
          set({ scoop_ml: chosen ? Number(chosen) : null, ball_mm: null });
          if (chosen && setting.evenness === "weighed") onEvenness("scooped");
          if (!chosen) onEvenness("weighed");
        }}
      />
      {ml !== null && (
        <>
          <Select
            label="Filled"
            value={piece.heaped ? "heaped" : "level"}
            options={[
              ["level", "level"],
              ["heaped", "rounded"],
            ]}
            onChange={(filled) => set({ heaped: filled === "heaped" })}
          />
          <NumberField
            label="Scoop holds"
            unit={ask.unit}
            step={ask.step}
            className="w-[4.75rem] font-semibold"
            value={ml}
            fault={props.fault(ask.field)}
            onChange={(holds) => set({ scoop_ml: holds })}
          />
          <OwnTool
            what="scoop"
            named={scoop?.name}
            suggested={`scoop ${ml} ml`}
            onKeep={(name) =>
              onKitchen((before) => ({
                ...before,
                scoops: [...(before.scoops ?? []).filter((s) => s.name !== name), { name, ml }],
              }))
            }
            onForget={(name) =>
              onKitchen((before) => ({
                ...before,
                scoops: (before.scoops ?? []).filter((s) => s.name !== name),
              }))
            }
          />
        </>
      )}
    </>
  );
}
