import { useQuery } from "@tanstack/react-query";
import type { Kitchen, Tray, TraySetting } from "../../api/client";
import { dial, dialAbout } from "../../logic/format";
import { DONE } from "../../logic/fromCard";
import { sheetsQuery } from "../../logic/queries";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { CardMark } from "./CardMark";

interface SettingRowProps {
  setting: TraySetting;
  kitchen: Kitchen;
  oven: Tray["oven"] | undefined;
  /** What this oven’s dial is set to for that, in °C. */
  turned: number | undefined;
  /** What the card says of the tray. */
  begun: Tray["begun"] | undefined;
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
  ["dark", "dark sheet"],
] as const;

const OVENS = [
  ["conventional", "still"],
  ["fan", "with fan"],
] as const;

const DONENESS: (readonly [keyof typeof DONE | "", string])[] = [
  ["", "as usual"],
  ...(Object.entries(DONE) as [keyof typeof DONE, string][]),
];

const COLOURS = [
  ["", "as usual"],
  ["pale", "pale"],
  ["golden", "golden"],
  ["brown", "brown"],
] as const;

/** How the dough is baked and on what sheet, in one row. */
export function SettingRow({
  setting,
  kitchen,
  oven,
  turned,
  begun,
  fault,
  onSetting,
  onKitchen,
}: SettingRowProps) {
  const set = (part: Partial<TraySetting>) => onSetting((before) => ({ ...before, ...part }));
  const setIn = (part: Partial<Kitchen>) => onKitchen((before) => ({ ...before, ...part }));
  const field = "w-[4.25rem] font-semibold";
  const mark = (name: string) =>
    begun?.said.includes(name) && (
      <CardMark begun={begun} setting={setting} field={name} onSetting={onSetting} />
    );
  return (
    <section aria-label="How it is baked" className="flex flex-wrap items-start gap-x-3 gap-y-2">
      <NumberField
        label="Dough at"
        measure="temperature"
        className={field}
        step={1}
        value={setting.dough_temp_c}
        fault={fault("dough_temp_c")}
        onChange={(dough_temp_c) => set({ dough_temp_c })}
      />
      <NumberField
        label="Oven at"
        measure="dial"
        className={field}
        step={5}
        value={setting.oven_c}
        fault={fault("oven_c")}
        note={mark("oven_c")}
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
        note={mark("surface")}
        onChange={(surface) => set({ surface })}
      />
      <Select
        label="Bake it"
        value={setting.doneness ?? ""}
        options={DONENESS}
        note={mark("doneness")}
        onChange={(doneness) => set({ doneness: doneness || null })}
      />
      <Select
        label="Colour"
        value={setting.colour ?? ""}
        options={COLOURS}
        note={mark("colour")}
        onChange={(colour) => set({ colour: colour || null })}
      />
      <label className="flex items-center gap-2 self-end pb-1.5">
        <input
          type="checkbox"
          className="min-h-5 min-w-5"
          checked={setting.rested ?? false}
          onChange={(event) => set({ rested: event.target.checked })}
        />
        rested overnight
      </label>
      {oven && (
        <p className="self-end pb-1.5 text-[0.9375rem] text-soft" data-figure="oven">
          Still {(kitchen.oven_mode === "fan" ? dialAbout : dial)(oven.still_c)}, fan{" "}
          {(kitchen.oven_mode === "fan" ? dial : dialAbout)(oven.fan_c)}, gas {oven.gas}
          {turned !== undefined && turned !== setting.oven_c && (
            <strong className="text-ink">; set this oven’s dial to {dial(turned)}</strong>
          )}
        </p>
      )}
    </section>
  );
}

interface SheetFieldsProps {
  kitchen: Kitchen;
  /** The kind of sheet that this dough is baked on; empty for the usual one. */
  sheet: string;
  onSheet: (name: string) => void;
  fault: (field: string) => string | undefined;
  onKitchen: (change: (before: Kitchen) => Kitchen) => void;
}

/** The sheet's inner size and the gap wanted between baked pieces. */
export function SheetFields({ kitchen, sheet, fault, onSheet, onKitchen }: SheetFieldsProps) {
  const setIn = (part: Partial<Kitchen>) => onKitchen((before) => ({ ...before, ...part }));
  const field = "w-[4.25rem] font-semibold";
  const sheets = useQuery(sheetsQuery);
  const named = sheets.data?.find(
    (s) => s.width_mm === kitchen.sheet_width_mm && s.depth_mm === kitchen.sheet_depth_mm,
  );
  const others = kitchen.other_sheets ?? [];
  const other = others.some((s) => s.name === sheet);
  const which = others.length > 0 && (
    <Select
      label="Baked on"
      className="w-36"
      value={other ? sheet : ""}
      options={[["", "the usual sheet"], ...others.map((s) => [s.name, s.name] as const)]}
      onChange={onSheet}
    />
  );
  if (other)
    return (
      <section aria-label="The sheet" className="contents">
        {which}
        <span className="self-end pb-1.5 text-soft">Its size is kept on the Kitchen screen.</span>
      </section>
    );
  return (
    <section aria-label="The sheet" className="contents">
      {which}
      <Select
        label="Sheet"
        className="w-32"
        value={named?.name ?? ""}
        options={[
          ...(named ? [] : [["", "my own"] as const]),
          ...(sheets.data ?? []).map((s) => [s.name, s.name] as const),
        ]}
        onChange={(name) => {
          const chosen = sheets.data?.find((s) => s.name === name);
          if (chosen) setIn({ sheet_width_mm: chosen.width_mm, sheet_depth_mm: chosen.depth_mm });
        }}
      />
      <NumberField
        label="Sheet across"
        measure="length"
        className={field}
        value={kitchen.sheet_width_mm}
        fault={fault("sheet_width_mm")}
        onChange={(sheet_width_mm) => setIn({ sheet_width_mm })}
      />
      <NumberField
        label="and down"
        measure="length"
        className={field}
        value={kitchen.sheet_depth_mm}
        fault={fault("sheet_depth_mm")}
        onChange={(sheet_depth_mm) => setIn({ sheet_depth_mm })}
      />
      <NumberField
        label="Gap"
        measure="length"
        step={1}
        className="w-14 font-semibold"
        value={kitchen.gap_mm}
        fault={fault("gap_mm")}
        onChange={(gap_mm) => setIn({ gap_mm })}
      />
      <label className="flex items-center gap-2 self-end pb-1.5">
        <input
          type="checkbox"
          className="min-h-5 min-w-5"
          checked={kitchen.hot_corners ?? false}
          onChange={(event) => setIn({ hot_corners: event.target.checked })}
        />
        hot corners free
      </label>
    </section>
  );
}
