import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, body, type Kitchen, ProblemError } from "../../api/client";
import { Choice } from "../../parts/Choice";
import { Notice } from "../../parts/Notice";
import { Stepper } from "../../parts/Stepper";
import { useWords } from "../dough/queries";
import { useKitchen } from "../tray/queries";
import { Figure } from "./Figure";
import { KitchenDrawing } from "./KitchenDrawing";

type Planning = Kitchen["planning"];
type Helper = Planning["helpers"][number];

/** All that there is to bake with: ovens, sheets, room, hands and habits. Each change is kept. */
export default function KitchenView() {
  const kitchen = useKitchen();
  if (kitchen.error && !kitchen.data)
    return (
      <div className="p-6">
        <Notice problem={kitchen.error} />
      </div>
    );
  if (!kitchen.data) return <p className="p-6 text-soft">One moment…</p>;
  return <KitchenBench kitchen={kitchen.data} />;
}

function KitchenBench({ kitchen }: { kitchen: Kitchen }) {
  const queries = useQueryClient();
  const words = useWords();
  const keep = useMutation({
    scope: { id: "kitchen" },
    mutationFn: (changed: Kitchen) => body(api.PUT("/api/kitchen", { body: changed })),
    // Shown at once; what cannot be goes back, and says why.
    onMutate: (changed) => {
      const before = queries.getQueryData<Kitchen>(["kitchen"]);
      queries.setQueryData(["kitchen"], changed);
      return before;
    },
    onError: (_, __, before) => queries.setQueryData(["kitchen"], before),
    onSuccess: (kept) => {
      queries.setQueryData(["kitchen"], kept);
      queries.invalidateQueries({ queryKey: ["plan"] });
    },
  });
  const set = (part: Partial<Kitchen>) => keep.mutate({ ...kitchen, ...part });
  const plan = (part: Partial<Planning>) => set({ planning: { ...kitchen.planning, ...part } });
  const fault = (field: string) =>
    keep.error instanceof ProblemError ? keep.error.at(field) : undefined;
  const p = kitchen.planning;

  return (
    <div className="grid flex-1 content-start gap-x-10 gap-y-6 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <div className="flex flex-col gap-5">
        <h1 className="text-2xl font-bold">Kitchen</h1>
        <KitchenDrawing kitchen={kitchen} />
        <section aria-label="Oven and sheets" className="flex flex-col gap-3">
          <h2 className="heading">Oven and sheets</h2>
          <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
            <Stepper
              label="Oven shelves"
              value={kitchen.shelves}
              range={[1, 4]}
              onChange={(shelves) => set({ shelves })}
            />
            <Stepper
              label="A second oven’s shelves"
              value={p.second_oven}
              range={[0, 4]}
              onChange={(second_oven) => plan({ second_oven })}
            />
            <Stepper
              label="Sheets"
              value={kitchen.sheets}
              range={[1, 12]}
              onChange={(sheets) => set({ sheets })}
            />
            <Choice
              label="It blows"
              value={kitchen.oven_mode}
              options={[
                ["conventional", "still"],
                ["fan", "fan"],
              ]}
              onChange={(oven_mode) => set({ oven_mode })}
            />
          </div>
          <div className="flex flex-wrap gap-x-6 gap-y-3">
            <Figure
              label="Gets hotter by"
              unit="°C a minute"
              value={p.rise_c_min}
              fault={fault("rise_c_min")}
              onValue={(rise_c_min) => plan({ rise_c_min })}
            />
            <Figure
              label="Cools by, door shut"
              unit="°C a minute"
              value={p.fall_c_min}
              fault={fault("fall_c_min")}
              onValue={(fall_c_min) => plan({ fall_c_min })}
            />
            <Figure
              label="Settings this near are one"
              unit="°C"
              value={p.tolerance_c}
              fault={fault("tolerance_c")}
              onValue={(tolerance_c) => plan({ tolerance_c })}
            />
          </div>
          <div className="flex flex-wrap gap-x-6 gap-y-3">
            <Figure
              label="Sheet across"
              unit="mm"
              value={kitchen.sheet_width_mm}
              fault={fault("sheet_width_mm")}
              onValue={(sheet_width_mm) => set({ sheet_width_mm })}
            />
            <Figure
              label="and down"
              unit="mm"
              value={kitchen.sheet_depth_mm}
              fault={fault("sheet_depth_mm")}
              onValue={(sheet_depth_mm) => set({ sheet_depth_mm })}
            />
            <Figure
              label="Gap between rims"
              unit="mm"
              value={kitchen.gap_mm}
              fault={fault("gap_mm")}
              onValue={(gap_mm) => set({ gap_mm })}
            />
            <label className="flex items-center gap-2 self-end pb-1.5">
              <input
                type="checkbox"
                checked={kitchen.hot_corners}
                onChange={(event) => set({ hot_corners: event.target.checked })}
              />
              its corners are hot
            </label>
          </div>
        </section>
        <section aria-label="Room" className="flex flex-col gap-3">
          <h2 className="heading">Room and cold</h2>
          <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
            <Stepper
              label="Trays the rack holds"
              value={p.racks}
              range={[1, 60]}
              onChange={(racks) => plan({ racks })}
            />
            <Stepper
              label="Doughs the fridge holds"
              value={p.fridge_places}
              range={[1, 30]}
              onChange={(fridge_places) => plan({ fridge_places })}
            />
            <Stepper
              label="Mixers"
              value={p.mixers}
              range={[1, 6]}
              onChange={(mixers) => plan({ mixers })}
            />
          </div>
          <div className="flex flex-wrap gap-x-6 gap-y-3">
            <Figure
              label="Room"
              unit="°C"
              value={kitchen.room_c}
              fault={fault("room_c")}
              onValue={(room_c) => set({ room_c })}
            />
            <Figure
              label="Fridge"
              unit="°C"
              value={kitchen.fridge_c}
              fault={fault("fridge_c")}
              onValue={(fridge_c) => set({ fridge_c })}
            />
            <Figure
              label="Freezer"
              unit="°C"
              value={kitchen.freezer_c}
              fault={fault("freezer_c")}
              onValue={(freezer_c) => set({ freezer_c })}
            />
          </div>
          <p className="text-[0.9375rem] text-soft">
            Keep a fridge at or below 4 °C and a freezer at or below −18 °C; follow your local food
            authority.
          </p>
        </section>
      </div>
      <div className="flex flex-col gap-5">
        <Hands helpers={p.helpers} fault={fault} onHelpers={(helpers) => plan({ helpers })} />
        <section aria-label="Minutes a job takes" className="flex flex-col gap-3">
          <h2 className="heading">
            Minutes a job takes <span className="font-normal text-soft">these hands</span>
          </h2>
          <div className="flex flex-wrap gap-x-6 gap-y-3">
            <Stepper
              label="Load a tray"
              value={p.load_min}
              range={[1, 15]}
              onChange={(load_min) => plan({ load_min })}
            />
            <Stepper
              label="Turn or swap"
              value={p.turn_min}
              range={[1, 15]}
              onChange={(turn_min) => plan({ turn_min })}
            />
            <Stepper
              label="Take out"
              value={p.out_min}
              range={[1, 15]}
              onChange={(out_min) => plan({ out_min })}
            />
            <Stepper
              label="To the rack"
              value={p.rack_min}
              range={[1, 15]}
              onChange={(rack_min) => plan({ rack_min })}
            />
          </div>
          <div className="flex flex-wrap gap-x-6 gap-y-3">
            <Figure
              label="Portioning takes"
              unit="times the usual"
              value={p.pace}
              fault={fault("pace")}
              onValue={(pace) => plan({ pace })}
            />
            <Figure
              label="A sheet cools and is lined in"
              unit="min"
              value={p.sheet_ready_min}
              fault={fault("sheet_ready_min")}
              onValue={(sheet_ready_min) => plan({ sheet_ready_min })}
            />
            <Figure
              label="A raw tray may wait"
              unit="min"
              value={p.raw_wait_min}
              fault={fault("raw_wait_min")}
              onValue={(raw_wait_min) => plan({ raw_wait_min })}
            />
          </div>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={p.slides}
              onChange={(event) => plan({ slides: event.target.checked })}
            />
            I portion on parchment and slide it across: a sheet is needed only for the bake
          </label>
        </section>
        <section aria-label="Habits" className="flex flex-col gap-3">
          <h2 className="heading">Habits</h2>
          <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
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
            <Choice
              label="I read in"
              value={kitchen.own_units}
              options={[
                ["grams", "grams"],
                ["ounces", "ounces"],
                ["cups", "cups"],
              ]}
              onChange={(own_units) => set({ own_units })}
            />
            <label className="flex flex-col text-[0.9375rem] text-soft">
              An egg is
              <select
                className="text-base text-ink"
                value={kitchen.egg}
                onChange={(event) => set({ egg: event.target.value })}
              >
                {(words.data?.eggs ?? [{ key: kitchen.egg, grams: 0 }]).map((egg) => (
                  <option key={egg.key} value={egg.key}>
                    {egg.key}
                    {egg.grams ? `, ${egg.grams} g` : ""}
                  </option>
                ))}
              </select>
            </label>
          </div>
          <p className="text-[0.9375rem] text-soft">
            Scoops and cutters are kept where they are used: on the Tray screen.
          </p>
        </section>
        <Notice problem={keep.error} />
        <p role="status" className="text-soft">
          {keep.isPending ? "Keeping…" : keep.isSuccess ? "Kept." : ""}
        </p>
      </div>
    </div>
  );
}

interface HandsProps {
  helpers: Helper[];
  fault: (field: string) => string | undefined;
  onHelpers: (helpers: Helper[]) => void;
}

/** Whose hands there are beside the baker's. */
function Hands({ helpers, fault, onHelpers }: HandsProps) {
  const [name, setName] = useState("");
  const add = () => {
    if (!name.trim()) return;
    onHelpers([...helpers, { name: name.trim(), child: false }]);
    setName("");
  };
  return (
    <section aria-label="Hands" className="flex flex-col gap-2">
      <h2 className="heading">Hands</h2>
      <ul>
        <li className="border-b border-line py-1.5">
          <strong>you</strong>, all jobs
        </li>
        {helpers.map((helper, n) => (
          <li
            key={helper.name}
            className="flex items-center justify-between gap-3 border-b border-line py-1"
          >
            <span>
              <strong>{helper.name}</strong>,{" "}
              {helper.child ? "the cool jobs: nothing hot or sharp" : "all jobs"}
            </span>
            <span className="flex items-center gap-2">
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  checked={helper.child}
                  onChange={(event) =>
                    onHelpers(
                      helpers.map((h, k) => (k === n ? { ...h, child: event.target.checked } : h)),
                    )
                  }
                />
                a child
              </label>
              <button
                type="button"
                className="icon-press"
                aria-label={`${helper.name} does not help`}
                onClick={() => onHelpers(helpers.filter((_, k) => k !== n))}
              >
                ✕
              </button>
            </span>
          </li>
        ))}
      </ul>
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <label className="flex flex-col text-[0.9375rem] text-soft">
          A helper’s name
          <input
            className="text-base text-ink"
            value={name}
            maxLength={40}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button type="submit" className="press min-h-9" disabled={!name.trim()}>
          Add
        </button>
      </form>
      {fault("helpers") && <p className="text-caution">{fault("helpers")}</p>}
    </section>
  );
}
