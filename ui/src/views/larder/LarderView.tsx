import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useSearchParams } from "react-router";
import { mass } from "../../logic/format";
import { larderQuery, stockQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { useRemembered } from "../../parts/useRemembered";
import { CanMake } from "./CanMake";
import { IngredientForm } from "./IngredientForm";
import { type Facts, MadeOf } from "./MadeOf";
import { Stock } from "./Stock";

const NEW: Facts = {
  name: "",
  role: "flour",
  water_pct: 12,
  fat_pct: 1,
  sugar_pct: 1,
  other_solids_pct: 86,
  water_binding: 0.6,
  g_per_cup: 125,
  g_per_cup_sifted: null,
  g_per_cup_dipped: null,
  natural_unit: null,
  melts_at_c: null,
  allergens: [],
  traits: [],
  source: "",
};

/** Every ingredient: what it is made of, how it fills a cup, which doughs use it. */
export default function LarderView() {
  const shelves = useQuery(larderQuery);
  const stock = useQuery(stockQuery);
  const [search, setSearch] = useRemembered("larder search", "");
  const [chosen, setChosen] = useRemembered<string | null>("larder chosen", null);
  const asked = useSearchParams()[0].get("ingredient");
  useEffect(() => {
    if (asked) setChosen(asked);
  }, [asked, setChosen]);
  const wanted = search.trim().toLowerCase();
  const all = shelves.data ?? [];
  const found = all.filter(
    (s) => s.facts.name.toLowerCase().includes(wanted) || s.facts.role.includes(wanted),
  );
  const there = new Map<string, number>();
  for (const pack of stock.data ?? []) {
    there.set(pack.ingredient, (there.get(pack.ingredient) ?? 0) + pack.grams);
  }
  const shelf = chosen === "" ? undefined : all.find((s) => s.key === chosen);
  return (
    <div className="grid grid-cols-1 min-h-0 flex-1 content-start gap-6 p-6 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <section aria-label="Ingredients" className="min-w-0">
        <div className="flex flex-wrap items-end gap-3">
          <h1 className="mr-auto text-3xl font-bold">Larder</h1>
          <label className="flex flex-col text-[0.9375rem] text-soft">
            Find an ingredient
            <input
              type="search"
              className="w-56 text-lg text-ink"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
            />
          </label>
          <button type="button" className="press" onClick={() => setChosen("")}>
            Add one
          </button>
        </div>
        <Notice problem={shelves.error} />
        <div
          aria-hidden="true"
          className="shelf-row mt-4 border-b-2 border-ink pb-1 text-[0.9375rem] text-soft"
        >
          <span>ingredient</span>
          <span className="max-sm:hidden">water, fat, sugars, rest</span>
          <span className="text-right max-sm:hidden">a cup</span>
          <span className="text-right">there</span>
          <span className="text-right">doughs</span>
        </div>
        <ul className="lg:max-h-[calc(100dvh-13rem)] lg:overflow-y-auto">
          {found.map((s) => (
            <li key={s.key} className="border-b border-line">
              <button
                type="button"
                aria-pressed={s.key === chosen}
                className="shelf-row w-full items-center py-1.5 text-left hover:bg-wash aria-pressed:bg-ink aria-pressed:text-paper"
                onClick={() => setChosen(s.key)}
              >
                <span>
                  {s.facts.name}
                  {s.own && <small> ({s.added ? "your own" : "changed"})</small>}
                </span>
                <MadeOf facts={s.facts} />
                <span className="text-right max-sm:hidden">{mass(s.facts.g_per_cup)}</span>
                <span className="whitespace-nowrap text-right font-semibold">
                  {there.has(s.key) && mass(there.get(s.key) ?? 0)}
                </span>
                <span className="text-right">{s.doughs || "–"}</span>
              </button>
            </li>
          ))}
        </ul>
        {shelves.data && found.length === 0 && (
          <p className="mt-3 text-soft">Nothing in the larder has that name. Add it.</p>
        )}
      </section>
      <section aria-label="One ingredient" className="min-w-0">
        {chosen === null || (chosen !== "" && !shelf) ? (
          <>
            <CanMake />
            <p className="mt-6 text-soft">
              Choose an ingredient to write down how much of it is in the house, to see its figures
              and where they are from, to change them for this kitchen, or add one of your own.
            </p>
          </>
        ) : (
          <>
            {shelf && <Stock ingredient={shelf.key} name={shelf.facts.name} />}
            <IngredientForm
              key={chosen + (shelf?.own ? " own" : "")}
              shelf={shelf}
              initial={shelf?.facts ?? NEW}
              onKept={(key) => setChosen(key)}
              onGone={() => setChosen(null)}
            />
          </>
        )}
      </section>
    </div>
  );
}
