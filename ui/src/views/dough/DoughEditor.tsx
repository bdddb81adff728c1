import { useEffect, useMemo } from "react";
import { Link } from "react-router";
import type { Dough, Words } from "../../api/client";
import { grams, percent } from "../../app/format";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { CardLines } from "./CardLines";
import type { Card } from "./draft";
import { plainLines } from "./draft";
import { Outcome } from "./Outcome";
import { useWeighed } from "./queries";
import { RemoveDough } from "./RemoveDough";
import { useDraft } from "./useDraft";

interface EditorProps {
  dough: Dough;
  words: Words;
}

const asOptions = <T extends string>(labels: { key: string; label: string }[]) =>
  labels.map(({ key, label }) => [key as T, label] as const);

/** Undo and redo by their usual keys, where the field itself has nothing to undo. */
function useHistoryKeys(change: ReturnType<typeof useDraft>["change"]) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      change({ do: event.shiftKey ? "redo" : "undo" });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [change]);
}

export function DoughEditor({ dough, words }: EditorProps) {
  const { draft, change, problem, saved } = useDraft(dough);
  const { card } = draft;
  const lines = useMemo(() => plainLines(card), [card]);
  const weighed = useWeighed(lines);
  useHistoryKeys(change);
  const emptyName = card.name.trim() === "";

  return (
    <div className="grid content-start gap-x-8 gap-y-4 p-6 max-sm:p-3 xl:grid-cols-[minmax(0,1fr)_16.5rem]">
      <section aria-label="Card" className="flex min-w-0 flex-col gap-4">
        <div>
          <input
            aria-label="Name of the dough"
            aria-invalid={emptyName}
            className="w-full border-0 border-b border-line bg-transparent px-0 text-3xl font-bold"
            value={card.name}
            maxLength={120}
            onChange={(event) => change({ do: "write", part: { name: event.target.value } })}
          />
          {emptyName && (
            <p className="text-caution">Give the dough a name; until then it is not kept.</p>
          )}
        </div>
        <div className="flex flex-wrap items-end gap-4">
          <Select
            label="Family"
            value={card.family}
            options={asOptions<Card["family"]>(words.families)}
            onChange={(family) => change({ do: "write", part: { family } })}
          />
          <Select
            label="Mixed by"
            value={card.mixing}
            options={asOptions<Card["mixing"]>(words.mixing)}
            onChange={(mixing) => change({ do: "write", part: { mixing } })}
          />
          <span className="ml-auto flex gap-2">
            <button
              type="button"
              className="press min-h-9"
              disabled={draft.past.length === 0}
              onClick={() => change({ do: "undo" })}
            >
              Take back
            </button>
            <button
              type="button"
              className="press min-h-9"
              disabled={draft.future.length === 0}
              onClick={() => change({ do: "redo" })}
            >
              Again
            </button>
          </span>
        </div>
        <CardLines
          lines={card.lines}
          weighed={weighed.data}
          ingredients={words.ingredients}
          change={change}
        />
        <Notice problem={weighed.error} />
        <Notice problem={emptyName ? null : problem} />
        <p role="status" className="text-[0.9375rem] text-soft">
          {saved ? "Kept." : problem || emptyName ? "Not kept yet." : "Keeping…"}
        </p>
      </section>
      <aside aria-label="Weights" className="flex flex-col gap-6">
        <p className="flex items-baseline gap-2">
          <strong className="text-5xl font-bold" data-figure="total">
            {grams(weighed.data?.total_g ?? 0)}
          </strong>
          <span className="text-xl">g of dough</span>
        </p>
        <BaseNote weighed={weighed.data} />
        <Outcome doughId={dough.id} tray={dough.tray} ready={saved && card.lines.length > 0} />
        <Link to={`/tray/${dough.id}`} className="press press-main">
          Portion it
        </Link>
        <Allergens card={card} words={words} />
        <RemoveDough id={dough.id} name={card.name} />
      </aside>
    </div>
  );
}

function BaseNote({ weighed }: { weighed: ReturnType<typeof useWeighed>["data"] }) {
  if (!weighed) return null;
  if (weighed.base_g === 0) {
    return (
      <p className="border-l-4 border-caution pl-3">
        <strong className="text-caution">No flour yet.</strong> Percentages are counted against
        flour, starch and grain: add one of them.
      </p>
    );
  }
  return (
    <p>
      100 % is <strong>{grams(weighed.base_g)} g</strong> of flour, starch and grain; the whole
      dough is {percent((100 * weighed.total_g) / weighed.base_g)} %.
    </p>
  );
}

function Allergens({ card, words }: { card: Card; words: Words }) {
  const found = new Set(
    card.lines.flatMap(
      (line) => words.ingredients.find((i) => i.key === line.ingredient)?.allergens ?? [],
    ),
  );
  return (
    <section aria-label="Cautions" className="text-[0.9375rem]">
      <h2 className="heading">Cautions</h2>
      {found.size > 0 && (
        <p className="mt-2">
          <strong className="text-caution">Contains</strong> {[...found].join(", ")}. Read the
          labels: traces differ.
        </p>
      )}
      <p className="mt-2">
        <strong className="text-caution">Do not taste raw dough:</strong> raw flour and egg can make
        ill. Wash hands and bench. Follow your local food authority and the labels.
      </p>
    </section>
  );
}
