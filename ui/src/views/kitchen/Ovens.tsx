import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { LIMITS } from "../../api/limits";
import { degreesApart } from "../../logic/format";
import { Choice } from "../../parts/Choice";
import { Stepper } from "../../parts/Stepper";
import { Figure } from "./Figure";
import type { KitchenPart, Nature } from "./setting";

type Mode = Schemas["KitchenSetting"]["oven_mode"];

const MODES = [
  ["conventional", "still"],
  ["fan", "fan"],
] as const;

const SIDES = [
  ["even", "evenly"],
  ["back", "back first"],
  ["front", "front"],
  ["left", "left"],
  ["right", "right"],
] as const;

interface OvenProps {
  name: string;
  shelves: number;
  mode: Mode;
  nature: Nature;
  fault: KitchenPart["fault"];
  onShelves: (shelves: number) => void;
  onMode: (mode: Mode) => void;
  onNature: (nature: Nature) => void;
  onRemove?: () => void;
}

/** An oven as its thermometer tells it. */
function Oven({ name, shelves, mode, nature, fault, onNature, ...props }: OvenProps) {
  const set = (part: Partial<Nature>) => onNature({ ...nature, ...part });
  return (
    <fieldset className="flex flex-col gap-2 border-line not-first-of-type:border-t not-first-of-type:pt-2">
      <legend className="sr-only">{name}</legend>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        {props.onRemove && (
          <span className="flex w-full items-center justify-between">
            <strong>{name}</strong>
            <button
              type="button"
              className="icon-press"
              aria-label={`Take ${name.toLowerCase()} away`}
              onClick={props.onRemove}
            >
              ✕
            </button>
          </span>
        )}
        <Stepper
          label="Shelves"
          value={shelves}
          range={LIMITS.KitchenSetting.shelves}
          onChange={props.onShelves}
        />
        <Choice label="It blows" value={mode} options={MODES} onChange={props.onMode} />
        <Choice
          label="It browns"
          value={nature.hot_side}
          options={SIDES}
          onChange={(hot_side) => set({ hot_side })}
        />
      </div>
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        <Figure
          label="Hotter than its dial"
          measure="degrees apart"
          value={nature.offset_c}
          fault={fault("offset_c")}
          onValue={(offset_c) => set({ offset_c })}
        />
        <Figure
          label="Swings, low to high"
          measure="degrees apart"
          value={nature.swing_c}
          fault={fault("swing_c")}
          onValue={(swing_c) => set({ swing_c })}
        />
        <Figure
          label="Gets hotter by"
          measure="degrees a minute"
          value={nature.rise_c_min}
          fault={fault("rise_c_min")}
          onValue={(rise_c_min) => set({ rise_c_min })}
        />
        <Figure
          label="Cools by, door shut"
          measure="degrees a minute"
          value={nature.fall_c_min}
          fault={fault("fall_c_min")}
          onValue={(fall_c_min) => set({ fall_c_min })}
        />
      </div>
      {nature.offset_c !== 0 && (
        <p className="text-[0.9375rem]">
          Its dial is set <strong>{degreesApart(Math.abs(nature.offset_c))}</strong>{" "}
          {nature.offset_c > 0 ? "lower" : "higher"} than what is wanted: the Tray, the Plan and
          Bake say so.
        </p>
      )}
    </fieldset>
  );
}

/** The ovens there are: one, or two. */
export function Ovens({ kitchen, set, plan, fault }: KitchenPart) {
  const p = kitchen.planning;
  const second = p.second;
  return (
    <section aria-label="Ovens" className="flex flex-col gap-2">
      <h2 className="heading">Ovens</h2>
      <Oven
        name={second ? "First oven" : "The oven"}
        shelves={kitchen.shelves}
        mode={kitchen.oven_mode}
        nature={p.oven}
        fault={fault}
        onShelves={(shelves) => set({ shelves })}
        onMode={(oven_mode) => set({ oven_mode })}
        onNature={(oven) => plan({ oven })}
      />
      {second && (
        <Oven
          name="Second oven"
          shelves={second.shelves}
          mode={second.mode}
          nature={second.nature}
          fault={fault}
          onShelves={(shelves) => plan({ second: { ...second, shelves } })}
          onMode={(mode) => plan({ second: { ...second, mode } })}
          onNature={(nature) => plan({ second: { ...second, nature } })}
          onRemove={() => plan({ second: null })}
        />
      )}
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        {!second && (
          <button
            type="button"
            className="press min-h-9"
            onClick={() => plan({ second: { shelves: 1, mode: "conventional", nature: p.oven } })}
          >
            A second oven
          </button>
        )}
        <Link to="/devices" className="press min-h-9">
          Watch it with a thermometer
        </Link>
        <Figure
          label="Settings this near count as one"
          measure="degrees apart"
          value={p.tolerance_c}
          fault={fault("tolerance_c")}
          onValue={(tolerance_c) => plan({ tolerance_c })}
        />
      </div>
    </section>
  );
}
