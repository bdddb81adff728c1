import type { Schemas } from "../../api/client";
import { LIMITS } from "../../api/limits";
import { Select } from "../../parts/Select";
import { Stepper } from "../../parts/Stepper";
import { Figure } from "./Figure";
import { freshName, type KitchenPart } from "./setting";

type OwnSheet = Schemas["OwnSheet"];
type OwnPan = Schemas["OwnPan"];
type SheetKind = NonNullable<OwnSheet["kind"]>;

const KINDS = [
  ["plain", "plain"],
  ["dark", "dark"],
  ["insulated", "insulated"],
  ["perforated", "perforated"],
] as const;

const PANS = [
  ["square", "square"],
  ["rectangle", "rectangle"],
  ["round", "round"],
] as const;

const replaced = <T,>(list: readonly T[], place: number, part: Partial<T>): T[] =>
  list.map((one, n) => (n === place ? { ...one, ...part } : one));

/** Sheets and pans by size, kind and number. */
export function SheetsAndPans({ kitchen, set, fault }: KitchenPart) {
  const others = kitchen.other_sheets;
  const pans = kitchen.pans;
  return (
    <section aria-label="Sheets and pans" className="flex flex-col gap-2">
      <h2 className="heading">Sheets and pans</h2>
      <ul>
        <li className="flex flex-wrap items-end gap-x-3 gap-y-2 py-1">
          <strong className="w-full">The usual sheets</strong>
          <Stepper
            label="How many"
            value={kitchen.sheets}
            range={LIMITS.KitchenSetting.sheets}
            onChange={(sheets) => set({ sheets })}
          />
          <Figure
            label="Across"
            measure="length"
            value={kitchen.sheet_width_mm}
            fault={fault("sheet_width_mm")}
            onValue={(sheet_width_mm) => set({ sheet_width_mm })}
          />
          <Figure
            label="Down"
            measure="length"
            value={kitchen.sheet_depth_mm}
            fault={fault("sheet_depth_mm")}
            onValue={(sheet_depth_mm) => set({ sheet_depth_mm })}
          />
          <Select
            label="Metal"
            className="w-28"
            value={kitchen.sheet_kind}
            options={KINDS}
            onChange={(sheet_kind) => set({ sheet_kind })}
          />
        </li>
        {others.map((sheet, n) => (
          <SheetRow
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place; its name is typed in it
            key={n}
            sheet={sheet}
            fault={(field) => fault(`other_sheets.${n}.${field}`)}
            onSheet={(part) => set({ other_sheets: replaced(others, n, part) })}
            onRemove={() => set({ other_sheets: others.filter((_, k) => k !== n) })}
          />
        ))}
        {pans.map((pan, n) => (
          <PanRow
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place; its name is typed in it
            key={n}
            pan={pan}
            fault={(field) => fault(`pans.${n}.${field}`)}
            onPan={(part) => set({ pans: replaced(pans, n, part) })}
            onRemove={() => set({ pans: pans.filter((_, k) => k !== n) })}
          />
        ))}
      </ul>
      {(fault("other_sheets") ?? fault("pans")) && (
        <p className="text-caution">{fault("other_sheets") ?? fault("pans")}</p>
      )}
      <div className="flex flex-wrap items-end gap-x-3 gap-y-2">
        <button
          type="button"
          className="press min-h-9"
          onClick={() =>
            set({
              other_sheets: [
                ...others,
                {
                  name: freshName("small sheet", others),
                  width_mm: 330,
                  depth_mm: 230,
                  kind: "plain",
                  number: 1,
                },
              ],
            })
          }
        >
          Another kind of sheet
        </button>
        <button
          type="button"
          className="press min-h-9"
          onClick={() =>
            set({
              pans: [
                ...pans,
                {
                  name: freshName("square pan", pans),
                  shape: "square",
                  across_mm: 200,
                  down_mm: 200,
                  number: 1,
                },
              ],
            })
          }
        >
          A pan
        </button>
        <Figure
          label="Gap between rims"
          measure="length"
          value={kitchen.gap_mm}
          fault={fault("gap_mm")}
          onValue={(gap_mm) => set({ gap_mm })}
        />
        <Figure
          label="Margin at the edge"
          measure="length"
          value={kitchen.margin_mm}
          fault={fault("margin_mm")}
          onValue={(margin_mm) => set({ margin_mm })}
        />
        <label className="flex items-center gap-2 pb-1.5">
          <input
            type="checkbox"
            checked={kitchen.hot_corners}
            onChange={(event) => set({ hot_corners: event.target.checked })}
          />
          corners are hot: keep them free
        </label>
      </div>
    </section>
  );
}

interface RowProps {
  name: string;
  number: number;
  fault: (field: string) => string | undefined;
  onName: (name: string) => void;
  onNumber: (number: number) => void;
  onRemove: () => void;
  children: React.ReactNode;
}

function Row({ name, number, fault, onName, onNumber, onRemove, children }: RowProps) {
  return (
    <li className="flex flex-wrap items-end gap-x-3 gap-y-2 border-t border-line py-1.5">
      <label className="flex flex-col text-[0.9375rem] text-soft">
        Called
        <input
          key={name}
          className="w-30 text-base font-semibold text-ink"
          defaultValue={name}
          maxLength={40}
          onBlur={(event) => {
            const next = event.target.value.trim();
            if (next && next !== name) onName(next);
          }}
        />
        {fault("name") && <span className="text-caution">{fault("name")}</span>}
      </label>
      <Stepper label="How many" value={number} range={LIMITS.OwnSheet.number} onChange={onNumber} />
      {children}
      <button
        type="button"
        className="icon-press"
        aria-label={`Take ${name} away`}
        onClick={onRemove}
      >
        ✕
      </button>
    </li>
  );
}

interface SheetRowProps {
  sheet: OwnSheet;
  fault: (field: string) => string | undefined;
  onSheet: (part: Partial<OwnSheet>) => void;
  onRemove: () => void;
}

function SheetRow({ sheet, fault, onSheet, onRemove }: SheetRowProps) {
  return (
    <Row
      name={sheet.name}
      number={sheet.number}
      fault={fault}
      onName={(name) => onSheet({ name })}
      onNumber={(number) => onSheet({ number })}
      onRemove={onRemove}
    >
      <Figure
        label="Across"
        measure="length"
        value={sheet.width_mm}
        fault={fault("width_mm")}
        onValue={(width_mm) => onSheet({ width_mm })}
      />
      <Figure
        label="Down"
        measure="length"
        value={sheet.depth_mm}
        fault={fault("depth_mm")}
        onValue={(depth_mm) => onSheet({ depth_mm })}
      />
      <Select
        label="Metal"
        className="w-28"
        value={sheet.kind as SheetKind}
        options={KINDS}
        onChange={(kind) => onSheet({ kind })}
      />
    </Row>
  );
}

interface PanRowProps {
  pan: OwnPan;
  fault: (field: string) => string | undefined;
  onPan: (part: Partial<OwnPan>) => void;
  onRemove: () => void;
}

function PanRow({ pan, fault, onPan, onRemove }: PanRowProps) {
  return (
    <Row
      name={pan.name}
      number={pan.number}
      fault={fault}
      onName={(name) => onPan({ name })}
      onNumber={(number) => onPan({ number })}
      onRemove={onRemove}
    >
      <Select
        label="Shape"
        value={pan.shape}
        options={PANS}
        onChange={(shape) => onPan({ shape })}
      />
      <Figure
        label={pan.shape === "round" ? "Diameter" : "Across"}
        measure="length"
        value={pan.across_mm}
        fault={fault("across_mm")}
        onValue={(across_mm) => onPan({ across_mm })}
      />
      {pan.shape === "rectangle" && (
        <Figure
          label="Down"
          measure="length"
          value={pan.down_mm}
          fault={fault("down_mm")}
          onValue={(down_mm) => onPan({ down_mm })}
        />
      )}
    </Row>
  );
}
