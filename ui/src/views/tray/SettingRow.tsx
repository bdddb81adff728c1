import type { Dough, Kitchen, TraySetting } from "../../api/client";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";

interface SettingRowProps {
  family: Dough["card"]["family"];
  setting: TraySetting;
  kitchen: Kitchen;
  fault: (field: string) => string | undefined;
  onSetting: (change: (before: TraySetting) => TraySetting) => void;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
}

const SURFACES = [
  ["parchment", "parchment"],
  ["bare", "bare sheet"],
  ["greased", "greased"],
  ["silicone", "silicone"],
  ["perforated", "perforated"],
  ["insulated", "insulated"],
] as const;

const EVENNESS = [
  ["weighed", "weighed"],
  ["scooped", "scooped"],
  ["spooned", "spooned"],
] as const;

const OVENS = [
  ["conventional", "still"],
  ["fan", "with fan"],
] as const;

const FIXED_MEASURE = {
  drop: null,
  rolled: ["thickness_mm", "Rolled to"],
  shortbread: ["log_diameter_mm", "Log across"],
  twice_baked: ["log_length_mm", "Log long"],
} as const;

/** How the dough is baked and on what sheet, in one row. */
export function SettingRow({
  family,
  setting,
  kitchen,
  fault,
  onSetting,
  onKitchen,
}: SettingRowProps) {
  const set = (part: Partial<TraySetting>) => onSetting((before) => ({ ...before, ...part }));
  const setIn = (part: Partial<Kitchen>) => onKitchen((before) => ({ ...before, ...part }));
  const measure = FIXED_MEASURE[family];
  const field = "w-[4.25rem] font-semibold";
  return (
    <section aria-label="How it is baked" className="flex flex-wrap items-start gap-x-3 gap-y-2">
      {measure && (
        <NumberField
          label={measure[1]}
          unit="mm"
          className={field}
          value={setting.piece[measure[0]]}
          fault={fault(measure[0])}
          onChange={(mm) =>
            onSetting((before) => ({ ...before, piece: { ...before.piece, [measure[0]]: mm } }))
          }
        />
      )}
      <NumberField
        label="Dough at"
        unit="°C"
        className={field}
        value={setting.dough_temp_c}
        fault={fault("dough_temp_c")}
        onChange={(dough_temp_c) => set({ dough_temp_c })}
      />
      <NumberField
        label="Oven at"
        unit="°C"
        className={field}
        value={setting.oven_c}
        fault={fault("oven_c")}
        onChange={(oven_c) => set({ oven_c })}
      />
      <Select
        label="Oven"
        value={kitchen.oven_mode}
        options={OVENS}
        onChange={(oven_mode) => setIn({ oven_mode })}
      />
      <Select
        label="On"
        value={setting.surface}
        options={SURFACES}
        onChange={(surface) => set({ surface })}
      />
      <Select
        label="Portions"
        value={setting.evenness}
        options={EVENNESS}
        onChange={(evenness) => set({ evenness })}
      />
    </section>
  );
}

interface SheetFieldsProps {
  kitchen: Kitchen;
  fault: (field: string) => string | undefined;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
}

/** The sheet's inner size and the gap wanted between baked pieces. */
export function SheetFields({ kitchen, fault, onKitchen }: SheetFieldsProps) {
  const setIn = (part: Partial<Kitchen>) => onKitchen((before) => ({ ...before, ...part }));
  const field = "w-[4.25rem] font-semibold";
  return (
    <section aria-label="The sheet" className="flex flex-wrap items-start gap-x-4 gap-y-2">
      <NumberField
        label="Sheet across"
        unit="mm"
        className={field}
        value={kitchen.sheet_width_mm}
        fault={fault("sheet_width_mm")}
        onChange={(sheet_width_mm) => setIn({ sheet_width_mm })}
      />
      <NumberField
        label="and down"
        unit="mm"
        className={field}
        value={kitchen.sheet_depth_mm}
        fault={fault("sheet_depth_mm")}
        onChange={(sheet_depth_mm) => setIn({ sheet_depth_mm })}
      />
      <NumberField
        label="Gap"
        unit="mm"
        className="w-14 font-semibold"
        value={kitchen.gap_mm}
        fault={fault("gap_mm")}
        onChange={(gap_mm) => setIn({ gap_mm })}
      />
    </section>
  );
}
