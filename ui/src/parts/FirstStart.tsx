import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, body, type Kitchen } from "../api/client";
import { LIMITS } from "../api/limits";
import { spanBy } from "../logic/format";
import { inSystem, systemOf, units } from "../logic/kitchenUnits";
import { KEYS, kitchenQuery, knownQuery, sheetsQuery } from "../logic/queries";
import { Choice } from "./Choice";
import { Notice } from "./Notice";
import { Select } from "./Select";
import { Stepper } from "./Stepper";

/** What a first start asks for: oven, shelves and sheets. The rest has usual values. */
export function FirstStart() {
  const known = useQuery(knownQuery());
  const kitchen = useQuery(kitchenQuery);
  if (!known.data || known.data.described || !kitchen.data) return null;
  return <Asks kitchen={kitchen.data} />;
}

function Asks({ kitchen: usual }: { kitchen: Kitchen }) {
  const queries = useQueryClient();
  const [kitchen, setKitchen] = useState(usual);
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
  return (
    <section aria-label="Your kitchen" className="mt-5 border-t-2 border-ink pt-3">
      <h2 className="text-xl font-bold">Your kitchen, in four answers</h2>
      <p className="text-soft">
        Yields, minutes and plans rest on them. All else has usual values and can wait: it is on the
        Kitchen screen.
      </p>
      <div className="mt-3 flex flex-wrap items-end gap-x-8 gap-y-3">
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
          value={systemOf(kitchen.units ?? units()) === "us" ? "us" : "metric"}
          options={[
            ["metric", "metric"],
            ["us", "US"],
          ]}
          onChange={(system) => set({ units: inSystem(kitchen.units ?? units(), system) })}
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
      <Notice problem={keep.error} />
    </section>
  );
}
