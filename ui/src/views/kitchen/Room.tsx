import { LIMITS } from "../../api/limits";
import { FREEZER, FRIDGE } from "../../logic/format";
import { Stepper } from "../../parts/Stepper";
import { Figure } from "./Figure";
import type { KitchenPart } from "./setting";

/** Bowls and mixer, rack, fridge and freezer. */
export function Room({ kitchen, set, plan, fault }: KitchenPart) {
  const p = kitchen.planning;
  return (
    <section aria-label="Bowls, rack and cold" className="flex flex-col gap-2">
      <h2 className="heading">Bowls, rack and cold</h2>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <Stepper
          label="Bowls for dough"
          value={p.bowls}
          range={LIMITS.Planning.bowls}
          onChange={(bowls) => plan({ bowls })}
        />
        <Stepper
          label="Mixers"
          value={p.mixers}
          range={LIMITS.Planning.mixers}
          onChange={(mixers) => plan({ mixers })}
        />
        <Figure
          label="The mixer takes"
          measure="mass"
          value={p.mixer_g}
          fault={fault("mixer_g")}
          onValue={(mixer_g) => plan({ mixer_g })}
        />
        <Stepper
          label="Trays the rack holds"
          value={p.racks}
          range={LIMITS.Planning.racks}
          onChange={(racks) => plan({ racks })}
        />
      </div>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <Stepper
          label="Doughs the fridge holds"
          value={p.fridge_places}
          range={LIMITS.Planning.fridge_places}
          onChange={(fridge_places) => plan({ fridge_places })}
        />
        <Figure
          label="Fridge"
          measure="temperature"
          value={kitchen.fridge_c}
          fault={fault("fridge_c")}
          onValue={(fridge_c) => set({ fridge_c })}
        />
        <Stepper
          label="Doughs the freezer holds"
          value={p.freezer_places}
          range={LIMITS.Planning.freezer_places}
          onChange={(freezer_places) => plan({ freezer_places })}
        />
        <Figure
          label="Freezer"
          measure="temperature"
          value={kitchen.freezer_c}
          fault={fault("freezer_c")}
          onValue={(freezer_c) => set({ freezer_c })}
        />
        <Figure
          label="Room"
          measure="temperature"
          value={kitchen.room_c}
          fault={fault("room_c")}
          onValue={(room_c) => set({ room_c })}
        />
      </div>
      <p className="text-[0.9375rem] text-soft">
        A dough heavier than the mixer takes is mixed in equal parts. Keep a fridge at or below{" "}
        {FRIDGE()} and a freezer at or below {FREEZER()}; follow your local food authority.
      </p>
    </section>
  );
}
