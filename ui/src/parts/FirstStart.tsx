import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, body, type Kitchen, type Schemas } from "../api/client";
import { LIMITS } from "../api/limits";
import { spanBy } from "../logic/format";
import { countryOf, inSystem, SYSTEMS, systemOf, units } from "../logic/kitchenUnits";
import { KEYS, kitchenQuery, knownQuery, regionsQuery, sheetsQuery } from "../logic/queries";
import { Choice } from "./Choice";
import { Notice } from "./Notice";
import { Select } from "./Select";
import { Stepper } from "./Stepper";

type Region = Schemas["Region"];

/** What a first start asks for: region, oven, shelves and sheets. The rest has usual values. */
export function FirstStart() {
  const known = useQuery(knownQuery());
  const kitchen = useQuery(kitchenQuery);
  const regions = useQuery(regionsQuery);
  if (!known.data || known.data.described || !kitchen.data || !regions.data) return null;
  return <Asks kitchen={kitchen.data} regions={regions.data} />;
}

/** The region of whoever reads this language; the last, which is any other, where none is known. */
function guessed(regions: Region[]): Region | undefined {
  const country = countryOf(navigator.language);
  return regions.find((region) => region.countries.includes(country)) ?? regions.at(-1);
}

/** The kitchen with what is usual in a region: its eggs and its sheet. */
const usualIn = (kitchen: Kitchen, { egg, sheet }: Region): Kitchen => ({
  ...kitchen,
  egg,
  sheet_width_mm: sheet.width_mm,
  sheet_depth_mm: sheet.depth_mm,
});

function Asks({ kitchen: usual, regions }: { kitchen: Kitchen; regions: Region[] }) {
  const queries = useQueryClient();
  const [region, setRegion] = useState(() => guessed(regions));
  const [kitchen, setKitchen] = useState(region ? usualIn(usual, region) : usual);
  const set = (part: Partial<Kitchen>) => setKitchen((before) => ({ ...before, ...part }));
  const sheets = useQuery(sheetsQuery);
  const keep = useMutation({
    mutationFn: () => body(api.PUT("/api/kitchen", { body: kitchen })),
    onSuccess: (kept) => {
      queries.setQueryData(kitchenQuery.queryKey, kept);
      queries.invalidateQueries({ queryKey: KEYS.known });
    },
  });
  const size = (s: { width_mm: number; depth_mm: number }) => `${s.width_mm}x${s.depth_mm}`;
  const own = size({ width_mm: kitchen.sheet_width_mm, depth_mm: kitchen.sheet_depth_mm });
  const listed = sheets.data ?? [];
  const system = systemOf(kitchen.units ?? units());
  return (
    <section aria-label="Your kitchen" className="mt-5 border-t-2 border-ink pt-3">
      <h2 className="text-xl font-bold">Your kitchen, in five answers</h2>
      <p className="text-soft">
        Yields, minutes and plans rest on them. All else has usual values and can wait: it is on the
        Kitchen screen.
      </p>
      <div className="mt-3 flex flex-wrap items-end gap-x-8 gap-y-3">
        <Select
          label="You bake in"
          value={region?.name ?? ""}
          options={regions.map(({ name }) => [name, name] as const)}
          onChange={(name) => {
            const found = regions.find((one) => one.name === name);
            if (!found) return;
            setRegion(found);
            setKitchen((before) => ({ ...usualIn(before, found), units: found.units }));
          }}
        />
        <Choice
          label="The oven blows"
          value={kitchen.oven_mode}
          options={[
            ["conventional", "still"],
            ["fan", "fan"],
          ]}
          onChange={(oven_mode) => set({ oven_mode })}
        />
        <Stepper
          label="Shelves that you bake on"
          value={kitchen.shelves}
          range={LIMITS.KitchenSetting.shelves}
          onChange={(shelves) => set({ shelves })}
        />
        <Stepper
          label="Sheets"
          value={kitchen.sheets}
          range={LIMITS.KitchenSetting.sheets}
          onChange={(sheets) => set({ sheets })}
        />
        <Select
          label="Their size"
          value={own}
          options={[
            ...(listed.some((s) => size(s) === own)
              ? []
              : [[own, spanBy(kitchen.sheet_width_mm, kitchen.sheet_depth_mm)] as const]),
            ...listed.map((s) => [size(s), s.name] as const),
          ]}
          onChange={(chosen) => {
            const found = listed.find((s) => size(s) === chosen);
            if (found) set({ sheet_width_mm: found.width_mm, sheet_depth_mm: found.depth_mm });
          }}
        />
        <Choice
          label="Figures are"
          value={system}
          options={SYSTEMS.filter(([key]) => key !== "mixed" || system === key)}
          onChange={(next) =>
            next !== "mixed" && set({ units: inSystem(kitchen.units ?? units(), next) })
          }
        />
        <button
          type="button"
          className="press press-main min-h-11"
          disabled={keep.isPending}
          onClick={() => keep.mutate()}
        >
          That is my kitchen
        </button>
      </div>
      {region && (
        <p className="mt-2 text-[0.9375rem] text-soft">
          An egg is then {region.egg}; a card that means another says so in its line.
        </p>
      )}
      <Notice problem={keep.error} />
    </section>
  );
}
