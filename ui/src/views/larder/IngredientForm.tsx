import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, body, ProblemError, type Schemas } from "../../api/client";
import { fine, fineFigure, mass } from "../../logic/format";
import { effectsQuery, RESTS_ON_LARDER, threwAway } from "../../logic/queries";
import { forget } from "../../logic/remembered";
import { Field } from "../../parts/Field";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { useRemembered } from "../../parts/useRemembered";
import { useTakeBack } from "../../parts/useTakeBack";
import { type Facts, MadeOf } from "./MadeOf";

const ROLES: Record<Facts["role"], string> = {
  flour: "flour",
  starch: "starch",
  grain: "oats and grain",
  nutmeal: "ground nuts",
  cocoa: "cocoa",
  sugar: "sugar",
  icing_sugar: "icing sugar",
  polyol: "sugar alcohol",
  syrup: "syrup",
  fat: "solid fat",
  oil: "oil",
  egg: "egg",
  liquid: "liquid",
  dry: "dry powder",
  flavour: "flavouring",
  nut_butter: "nut butter",
  piece: "nuts and seeds",
  chip: "chocolate pieces",
  melting_candy: "candy that melts",
  fruit: "dried fruit",
  filling: "filling",
  leavener: "leavening",
  salt: "salt",
  spice: "spice or herb",
  decoration: "decoration",
};

type Shelf = Schemas["ShelfOut"];

interface IngredientFormProps {
  /** Absent for a new one. */
  shelf: Shelf | undefined;
  initial: Facts;
  onKept: (key: string) => void;
  onGone: () => void;
}

/** What one of it is called and weighs; nothing when it is not counted. */
const counted = (facts: Facts, grams: number): NonNullable<Facts["natural_unit"]> | null =>
  grams > 0 ? { ...(facts.natural_unit ?? { unit: "each", name: "piece" }), grams } : null;

/** One ingredient's figures; what a change does is shown before it is kept. */
export function IngredientForm({ shelf, initial, onKept, onGone }: IngredientFormProps) {
  const typed = `ingredient ${shelf?.key ?? "new"}`;
  const [facts, setFacts] = useRemembered(typed, initial);
  const queries = useQueryClient();
  const taking = useTakeBack<Facts>(setFacts);
  const write = (part: Partial<Facts>) => {
    taking.note(facts);
    setFacts({ ...facts, ...part });
  };
  const refresh = () =>
    Promise.all(RESTS_ON_LARDER.map((queryKey) => queries.invalidateQueries({ queryKey })));
  const keep = useMutation({
    mutationFn: () =>
      shelf
        ? body(api.PUT("/api/larder/{key}", { params: { path: { key: shelf.key } }, body: facts }))
        : body(api.POST("/api/larder", { body: facts })),
    onSuccess: async (kept) => {
      forget(typed);
      await refresh();
      onKept(kept.key);
    },
  });
  const reset = useMutation({
    mutationFn: () =>
      body(api.DELETE("/api/larder/{key}", { params: { path: { key: shelf?.key ?? "" } } })),
    onSuccess: async ({ thrown, shelf: shipped }) => {
      threwAway(queries, thrown);
      await refresh();
      if (shipped) setFacts(shipped.facts);
      else onGone();
      forget(typed);
    },
  });
  const changed = JSON.stringify(facts) !== JSON.stringify(initial);
  const effects = useQuery(effectsQuery(shelf, facts));
  const problem = keep.error ?? (changed ? effects.error : null);
  const fault = (field: string) =>
    problem instanceof ProblemError ? problem.at(field) : undefined;
  const number = (field: keyof Facts, label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      className="w-16 text-lg font-semibold"
      value={facts[field] as number}
      onChange={(value) => write({ [field]: value })}
      fault={fault(field)}
    />
  );
  const optional = (field: "g_per_cup_sifted" | "g_per_cup_dipped", label: string) => (
    <NumberField
      label={label}
      measure="mass"
      value={facts[field] ?? 0}
      onChange={(value) => write({ [field]: value > 0 ? value : null })}
      fault={fault(field)}
    />
  );
  const total = facts.water_pct + facts.fat_pct + facts.sugar_pct + facts.other_solids_pct;

  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <Field label="Name" fault={fault("name")}>
        {(props) => (
          <input
            {...props}
            className="w-full text-xl font-bold"
            value={facts.name}
            maxLength={60}
            onChange={(event) => write({ name: event.target.value })}
          />
        )}
      </Field>
      <Select
        label="Does the work of"
        value={facts.role}
        options={Object.entries(ROLES) as [Facts["role"], string][]}
        onChange={(role) => write({ role })}
      />
      <fieldset>
        <legend className="heading w-full">
          Made of <span className="font-normal text-soft">{total.toFixed(1)} % in all</span>
        </legend>
        <div className="mt-2">
          <MadeOf facts={facts} />
        </div>
        <div className="mt-2 grid grid-cols-4 gap-2">
          {number("water_pct", "Water", "%")}
          {number("fat_pct", "Fat", "%")}
          {number("sugar_pct", "Sugars", "%")}
          {number("other_solids_pct", "Rest", "%")}
        </div>
        <div className="mt-2">
          {number("water_binding", "It takes up water", "times its own weight")}
        </div>
        {shelf && shelf.made_of.length > 0 && (
          <p className="mt-2 text-[0.9375rem]">Counted as {shelf.made_of.join(", ")}.</p>
        )}
      </fieldset>
      <fieldset>
        <legend className="heading w-full">A cup of it (0: no difference)</legend>
        <div className="mt-2 grid grid-cols-3 gap-3">
          {number("g_per_cup", "Spooned", "g")}
          {optional("g_per_cup_sifted", "Sifted")}
          {optional("g_per_cup_dipped", "Dipped")}
        </div>
        <div className="mt-3 flex flex-wrap gap-6">
          <NumberField
            label={`One ${facts.natural_unit?.name ?? "piece"} (0: not counted)`}
            measure="mass"
            value={facts.natural_unit?.grams ?? 0}
            onChange={(value) => write({ natural_unit: counted(facts, value) })}
            fault={fault("natural_unit.grams")}
          />
          <NumberField
            label="Its fat melts at (empty: none)"
            measure="temperature"
            value={facts.melts_at_c ?? null}
            onChange={(melts_at_c) => write({ melts_at_c })}
            onEmpty={() => write({ melts_at_c: null })}
            fault={fault("melts_at_c")}
          />
        </div>
      </fieldset>
      <Allergens words={facts.allergens} onWords={(allergens) => write({ allergens })} />
      <Field label="Where these figures are from">
        {(props) => (
          <textarea
            {...props}
            className="field-sizing-content w-full resize-none"
            value={facts.source}
            maxLength={300}
            placeholder="the packet, a food-composition table, weighed"
            onChange={(event) => write({ source: event.target.value })}
          />
        )}
      </Field>
      {effects.data && effects.data.length > 0 && (
        <section aria-label="Doughs that use it">
          <h2 className="heading">{changed ? "What this would change" : "Used in"}</h2>
          <ul>
            {effects.data.map((e) => (
              <li key={e.id} className="border-b border-line py-1">
                <Link to={`/dough/${e.id}`} className="underline">
                  {e.name}
                </Link>
                {changed ? <Change effect={e} /> : `: ${mass(e.before_g)} of dough`}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Notice problem={keep.error ?? reset.error ?? (changed ? effects.error : null)} />
      <div className="flex flex-wrap gap-3">
        <button
          type="submit"
          className="press press-main"
          disabled={!changed || keep.isPending || facts.name.trim() === ""}
        >
          {shelf ? "Keep these figures" : "Add it to the larder"}
        </button>
        {shelf?.own && (
          <button type="button" className="press" onClick={() => reset.mutate()}>
            {shelf.added ? "Take it out of the larder" : "Back to the shipped figures"}
          </button>
        )}
        {taking.press}
      </div>
    </form>
  );
}

interface AllergensProps {
  words: string[];
  onWords: (words: string[]) => void;
}

/** Words with commas between them; as they are typed until the field is left. */
function Allergens({ words, onWords }: AllergensProps) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Field label="Allergens, with commas">
      {(props) => (
        <input
          {...props}
          className="w-full"
          value={typed ?? words.join(", ")}
          maxLength={200}
          onBlur={() => setTyped(null)}
          onChange={(event) => {
            setTyped(event.target.value);
            const parts = event.target.value.split(",");
            onWords(parts.map((word) => word.trim()).filter(Boolean));
          }}
        />
      )}
    </Field>
  );
}

/** One dough before and after: its weight, and the width of its baked piece. */
function Change({ effect }: { effect: Schemas["LarderEffect"] }) {
  const { before_g, after_g, before_mm, after_mm } = effect;
  return (
    <>
      : {mass(before_g)} → {mass(after_g)}
      {before_mm !== null && after_mm !== null && (
        <>
          , a piece {fineFigure(before_mm, 1)} → <strong>{fine(after_mm, 1)}</strong>
        </>
      )}
    </>
  );
}
