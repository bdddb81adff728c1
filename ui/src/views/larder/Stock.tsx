import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, body, ProblemError, type Schemas } from "../../api/client";
import { date, mass } from "../../logic/format";
import { timeOn } from "../../logic/moments";
import { money } from "../../logic/occasion";
import { RESTS_ON_STOCK, stockQuery, threwAway } from "../../logic/queries";
import { forget } from "../../logic/remembered";
import { MomentField } from "../../parts/MomentField";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";
import { useRemembered } from "../../parts/useRemembered";

type Pack = Schemas["KeptPack"];
type NewPack = Schemas["Pack"];

const USUAL_G = 500;
const LAST_MINUTE = 24 * 60 - 1;

function useStockChange() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (change: { id: number | null; pack: NewPack | null }) => {
      const path = { params: { path: { pack_id: change.id ?? 0 } } };
      if (change.id === null && change.pack) {
        await body(api.POST("/api/stock", { body: change.pack }));
      } else if (change.pack) {
        await body(api.PUT("/api/stock/{pack_id}", { ...path, body: change.pack }));
      } else {
        return body(api.DELETE("/api/stock/{pack_id}", path));
      }
    },
    onSuccess: (thrown) => {
      if (thrown) threwAway(queries, thrown);
      return Promise.all(RESTS_ON_STOCK.map((queryKey) => queries.invalidateQueries({ queryKey })));
    },
  });
}

/** What of one ingredient is in the house: changed, used up, and bought anew. */
export function Stock({ ingredient, name }: { ingredient: string; name: string }) {
  const stock = useQuery(stockQuery);
  const change = useStockChange();
  const own = (stock.data ?? []).filter((pack) => pack.ingredient === ingredient);
  const now = Date.now();
  return (
    <section aria-label={`In the house: ${name}`} className="mb-6">
      <h2 className="heading">In the house</h2>
      {own.length === 0 && <p className="mt-1 text-soft">Nothing is written down of it yet.</p>}
      <ul>
        {own.map((pack) => (
          <PackRow
            key={pack.id}
            pack={pack}
            now={now}
            onPack={(next) => change.mutate({ id: pack.id, pack: next })}
          />
        ))}
      </ul>
      <NewPackForm
        key={`${ingredient} ${own.length}`}
        ingredient={ingredient}
        last={own.at(-1)}
        now={now}
        problem={change.error}
        onPack={(pack) => change.mutate({ id: null, pack })}
      />
      <Notice problem={change.error ?? stock.error} />
    </section>
  );
}

const plain = ({ id: _, ...pack }: Pack): NewPack => pack;

interface PackRowProps {
  pack: Pack;
  now: number;
  onPack: (pack: NewPack | null) => void;
}

function PackRow({ pack, now, onPack }: PackRowProps) {
  const [grams, setGrams] = useState(pack.grams);
  const over = pack.use_by != null && pack.use_by < now;
  return (
    <li className="flex flex-wrap items-end gap-x-3 gap-y-1 border-b border-line py-1">
      <NumberField
        key={pack.grams}
        label="There is"
        measure="mass"
        value={grams}
        onChange={setGrams}
      />
      {grams !== pack.grams && (
        <button
          type="button"
          className="press min-h-9"
          onClick={() => onPack({ ...plain(pack), grams })}
        >
          Keep
        </button>
      )}
      <span className="mr-auto self-center leading-tight">
        {pack.pack_g != null && `packs of ${mass(pack.pack_g)}`}
        {pack.price != null && `, ${money(pack.price)} each`}
        {pack.use_by != null && (
          <span className={`block ${over ? "text-caution" : "text-soft"}`}>
            {over ? "its day was" : "use by"} {date(pack.use_by)}
          </span>
        )}
      </span>
      <button
        type="button"
        className="icon-press"
        aria-label={`Used up: ${mass(pack.grams)}`}
        onClick={() => onPack(null)}
      >
        ✕
      </button>
    </li>
  );
}

interface NewPackFormProps {
  ingredient: string;
  /** What was bought of it last, to begin from. */
  last: Pack | undefined;
  now: number;
  problem: Error | null;
  onPack: (pack: NewPack) => void;
}

function NewPackForm({ ingredient, last, now, problem, onPack }: NewPackFormProps) {
  const [pack, setPack] = useRemembered<NewPack>(`pack ${ingredient}`, {
    ingredient,
    grams: last?.pack_g ?? USUAL_G,
    pack_g: last?.pack_g ?? USUAL_G,
    price: last?.price ?? null,
    use_by: null,
  });
  const change = (part: Partial<NewPack>) => setPack((before) => ({ ...before, ...part }));
  const fault = (field: string) =>
    problem instanceof ProblemError ? problem.at(field) : undefined;
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        forget(`pack ${ingredient}`);
        onPack(pack);
      }}
    >
      <NumberField
        label="Bought"
        measure="mass"
        value={pack.grams}
        fault={fault("grams")}
        onChange={(grams) => change({ grams })}
      />
      <NumberField
        label="A pack holds"
        measure="mass"
        value={pack.pack_g ?? null}
        fault={fault("pack_g")}
        onChange={(pack_g) => change({ pack_g })}
        onEmpty={() => change({ pack_g: null })}
      />
      <NumberField
        label="and costs, in your money"
        value={pack.price ?? null}
        fault={fault("price")}
        onChange={(price) => change({ price })}
        onEmpty={() => change({ price: null })}
      />
      <MomentField
        label="Use by"
        of="day"
        value={pack.use_by ?? null}
        now={now}
        // That day is a good one still.
        onChange={(day) => change({ use_by: day === null ? null : timeOn(day, LAST_MINUTE) })}
      />
      <button type="submit" className="press min-h-9">
        Put it in
      </button>
    </form>
  );
}
