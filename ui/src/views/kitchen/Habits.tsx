import { useQuery } from "@tanstack/react-query";
import { mass } from "../../logic/format";
import { wordsQuery } from "../../logic/queries";
import { Choice } from "../../parts/Choice";
import { Figure } from "./Figure";
import type { KitchenPart } from "./setting";

interface TickProps {
  checked: boolean;
  onChange: (checked: boolean) => void;
  children: React.ReactNode;
}

function Tick({ checked, onChange, children }: TickProps) {
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      <span>{children}</span>
    </label>
  );
}

/** How this baker works, measures and reads. */
export function Habits({ kitchen, set, plan, fault }: KitchenPart) {
  const words = useQuery(wordsQuery);
  const p = kitchen.planning;
  return (
    <section aria-label="Habits" className="flex flex-col gap-2">
      <h2 className="heading">Habits</h2>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <Choice
          label="At half time a tray is"
          value={p.turning}
          options={[
            ["turn", "turned"],
            ["swap", "swapped, shelf for shelf"],
            ["leave", "left alone"],
          ]}
          onChange={(turning) => plan({ turning })}
        />
        <Figure
          label="A raw tray may wait"
          unit="min"
          value={p.raw_wait_min}
          fault={fault("raw_wait_min")}
          onValue={(raw_wait_min) => plan({ raw_wait_min })}
        />
      </div>
      <div className="flex flex-col">
        <Tick checked={p.slides} onChange={(slides) => plan({ slides })}>
          I portion on parchment and slide it across: a sheet is needed only for the bake
        </Tick>
        <Tick checked={p.interrupts} onChange={(interrupts) => plan({ interrupts })}>
          I leave off portioning when the oven calls
        </Tick>
        <Tick checked={p.cold_on_sheet} onChange={(cold_on_sheet) => plan({ cold_on_sheet })}>
          Pieces stay on the sheet until they are cold
        </Tick>
      </div>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <Choice
          label="Cups are"
          value={kitchen.cup}
          options={[
            ["spooned", "spooned"],
            ["sifted", "sifted"],
            ["dipped", "dipped"],
          ]}
          onChange={(cup) => set({ cup })}
        />
        <label className="flex flex-col text-[0.9375rem] text-soft">
          An egg is
          <select
            className="text-base text-ink"
            value={kitchen.egg}
            onChange={(event) => set({ egg: event.target.value })}
          >
            {(words.data?.eggs ?? [{ key: kitchen.egg ?? "", grams: 0 }]).map((egg) => (
              <option key={egg.key} value={egg.key}>
                {egg.key}
                {egg.grams ? `, ${mass(egg.grams)}` : ""}
              </option>
            ))}
          </select>
        </label>
      </div>
    </section>
  );
}
