import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, body, type Kitchen, type Words } from "../../api/client";
import type { Card, Change } from "../../logic/draft";
import { mass } from "../../logic/format";
import { units as kitchenUnits, type Units } from "../../logic/kitchenUnits";
import { KEYS, kitchenQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";

export const CUP_WORDS = {
  spooned: "spooned and levelled",
  sifted: "sifted, then measured",
  dipped: "dipped and swept",
} as const;

type Cup = keyof typeof CUP_WORDS;

const UNIT_SYSTEMS = {
  grams: "grams",
  ounces: "ounces",
  cups: "cups and spoons",
} as const;

const AMOUNTS: Record<keyof typeof UNIT_SYSTEMS, Partial<Units>> = {
  grams: { mass: "metric", volume: "metric" },
  ounces: { mass: "ounces", volume: "metric" },
  cups: { volume: "cups" },
};

const amountsIn = (units: Units): keyof typeof UNIT_SYSTEMS =>
  units.volume === "cups" ? "cups" : units.mass === "ounces" ? "ounces" : "grams";

interface MeasuringProps {
  card: Card;
  words: Words;
  change: (change: Change) => void;
}

/** What is assumed of cups and eggs: for this dough, and for the whole kitchen. */
export function Measuring({ card, words, change }: MeasuringProps) {
  const kitchen = useQuery(kitchenQuery);
  const queries = useQueryClient();
  const keep = useMutation({
    mutationFn: (part: Partial<Kitchen>) =>
      body(api.PUT("/api/kitchen", { body: { ...(kitchen.data as Kitchen), ...part } })),
    onSuccess: (after) => {
      queries.setQueryData(kitchenQuery.queryKey, after);
      queries.invalidateQueries({ queryKey: KEYS.study });
      queries.invalidateQueries({ queryKey: KEYS.doughs });
    },
  });
  // Its room is kept while it loads, so that nothing moves under a finger.
  if (!kitchen.data) return <p className="mb-3 min-h-6" />;
  const { cup = "spooned", egg = "US large", units } = kitchen.data;
  const reads = units ?? kitchenUnits();
  const amounts = amountsIn(reads);
  const eggs = words.eggs.map((e) => [e.key, `${e.key}, ${mass(e.grams)}`] as const);
  const cups = words.cups.map((c) => [c, CUP_WORDS[c]] as const);
  return (
    <details className="mb-3">
      <summary className="cursor-pointer text-[0.9375rem]">
        Cups are <strong>{CUP_WORDS[card.cup ?? cup]}</strong>, eggs are{" "}
        <strong>{card.egg ?? egg}</strong>, and you read in <strong>{UNIT_SYSTEMS[amounts]}</strong>
        . <span className="underline">Change</span>
      </summary>
      <div className="mt-2 flex flex-wrap gap-x-8 gap-y-3 border-l-4 border-line pl-4">
        <fieldset className="flex flex-wrap gap-3">
          <legend className="font-semibold">In this dough</legend>
          <Select<Cup | "">
            label="Cups of this dough"
            value={card.cup ?? ""}
            options={[["", `as the kitchen (${cup})`], ...cups]}
            onChange={(next) => change({ do: "write", part: { cup: next || null } })}
          />
          <Select
            label="Eggs of this dough"
            value={card.egg ?? ""}
            options={[["", `as the kitchen (${egg})`], ...eggs]}
            onChange={(next) => change({ do: "write", part: { egg: next || null } })}
          />
        </fieldset>
        <fieldset className="flex flex-wrap gap-3">
          <legend className="font-semibold">In this kitchen</legend>
          <Select<Cup>
            label="Cups of the kitchen"
            value={cup}
            options={cups}
            onChange={(next) => keep.mutate({ cup: next })}
          />
          <Select
            label="Eggs of the kitchen"
            value={egg}
            options={eggs}
            onChange={(next) => keep.mutate({ egg: next })}
          />
          <Select<keyof typeof UNIT_SYSTEMS>
            label="You read amounts in"
            value={amounts}
            options={words.unit_systems.map((u) => [u, UNIT_SYSTEMS[u]] as const)}
            onChange={(next) => keep.mutate({ units: { ...reads, ...AMOUNTS[next] } })}
          />
        </fieldset>
      </div>
      <Notice problem={keep.error} />
    </details>
  );
}
