import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import { date, mass } from "../../logic/format";
import { drawerPagesQuery, type Looked, labelsQuery, wordsQuery } from "../../logic/queries";
import { Choice } from "../../parts/Choice";
import { FavouriteMark } from "../../parts/FavouriteMark";
import { FirstStart } from "../../parts/FirstStart";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { useMarks } from "../../parts/useMarks";
import { useNewDough } from "../../parts/useNewDough";
import { useRemembered } from "../../parts/useRemembered";
import { BringIn } from "./BringIn";

const ORDERS = [
  ["changed", "changed last"],
  ["name", "by name"],
  ["baked", "baked last"],
] as const;

/** The drawer of doughs: found by name or ingredient while one types, the latest on top. */
export function Drawer() {
  const [search, setSearch] = useRemembered("dough search", "");
  const [order, setOrder] = useRemembered<Looked["order"]>("dough order", "changed");
  const [label, setLabel] = useRemembered("dough label", "");
  const [bringing, setBringing] = useState(false);
  const doughs = useInfiniteQuery(drawerPagesQuery({ search, order, label }));
  const labels = useQuery(labelsQuery).data ?? [];
  const marks = useMarks();
  const words = useQuery(wordsQuery);
  const gone = useLocation().state?.gone === true;
  const start = useNewDough();
  const called = (family: string) => words.data?.families.find((f) => f.key === family)?.label;
  const pages = doughs.data?.pages ?? [];
  const found = pages.flatMap((page) => page.doughs);
  const total = pages.at(-1)?.total;

  return (
    <div className="mx-auto w-full max-w-5xl p-6 max-sm:p-3">
      <div className="flex flex-wrap items-end gap-3">
        <h1 className="mr-auto text-3xl font-bold">Doughs</h1>
        <label className="flex flex-col text-[0.9375rem] text-soft">
          Find by name or ingredient
          <input
            type="search"
            className="w-72 text-lg text-ink"
            value={search}
            maxLength={100}
            onChange={(event) => setSearch(event.target.value)}
          />
        </label>
        <button type="button" className="press press-main" onClick={() => start.mutate("written")}>
          Start one
        </button>
        <button
          type="button"
          className="press"
          aria-expanded={bringing}
          onClick={() => setBringing(!bringing)}
        >
          Bring in a file
        </button>
      </div>
      {bringing && <BringIn onClose={() => setBringing(false)} />}
      <Notice problem={doughs.error ?? start.error ?? marks.error} />
      {gone && (
        <p role="status" className="mt-2 border-l-4 border-caution bg-sheet px-3 py-2">
          That dough is not there, or not any more. Choose one of these.
        </p>
      )}
      <FirstStart />
      {(labels.length > 0 || (total ?? 0) > 1) && (
        <div className="mt-3 flex flex-wrap items-end gap-x-5 gap-y-2">
          <Choice label="In order" value={order} options={ORDERS} onChange={setOrder} />
          {labels.length > 0 && (
            <Select
              label="With the label"
              value={label}
              options={[["", "any, or none"], ...labels.map((one) => [one, one] as const)]}
              onChange={setLabel}
            />
          )}
        </div>
      )}
      {total === 0 && (
        <p className="mt-8 text-lg text-soft">
          {search || label
            ? "No dough of that name, and none with such an ingredient."
            : "None yet. Start one: write its card line by line, or paste a whole card; then portion it, plan the trays, bake, and write down what came out."}
        </p>
      )}
      {found.length > 0 && (
        <>
          <ul aria-label="Doughs" className="mt-4 border-t-2 border-ink">
            {found.map((dough) => (
              <li key={dough.id} className="flex items-center border-b border-line">
                <button
                  type="button"
                  className="icon-press min-h-11 min-w-9 flex-none"
                  aria-label={`${dough.name} is a favourite`}
                  aria-pressed={dough.marks.favourite}
                  onClick={() =>
                    marks.mutate({
                      id: dough.id,
                      marks: { ...dough.marks, favourite: !dough.marks.favourite },
                    })
                  }
                >
                  <FavouriteMark on={dough.marks.favourite} />
                </button>
                <Link
                  to={`/dough/${dough.id}`}
                  className="grid min-w-0 flex-1 grid-cols-[minmax(0,1fr)_9rem_6rem_7rem_6rem] items-baseline gap-3 py-2.5 hover:bg-wash max-md:grid-cols-[minmax(0,1fr)_6rem]"
                >
                  <span className="min-w-0">
                    <span className="text-xl font-semibold break-words">{dough.name}</span>
                    {dough.marks.labels.length > 0 && (
                      <span className="block text-[0.9375rem] text-soft">
                        {dough.marks.labels.join(" · ")}
                      </span>
                    )}
                  </span>
                  <span className="max-md:hidden">{called(dough.family)}</span>
                  <span className="text-right max-md:hidden">
                    {dough.lines} {dough.lines === 1 ? "line" : "lines"}
                  </span>
                  <span className="text-right text-lg">
                    {dough.lines === 0 ? "–" : mass(dough.total_g)}
                  </span>
                  <span className="text-right text-soft max-md:hidden">
                    {date(dough.changed_at)}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          <p role="status" className="mt-3 flex items-center gap-3 text-[0.9375rem] text-soft">
            {total === found.length
              ? `${total} in all.`
              : `${found.length} of ${total}; favourites first.`}
            {doughs.hasNextPage && (
              <button
                type="button"
                className="press min-h-9"
                disabled={doughs.isFetchingNextPage}
                onClick={() => void doughs.fetchNextPage()}
              >
                Show more
              </button>
            )}
          </p>
        </>
      )}
    </div>
  );
}
