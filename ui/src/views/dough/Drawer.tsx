import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import { date, mass } from "../../logic/format";
import { doughsQuery, wordsQuery } from "../../logic/queries";
import { FirstStart } from "../../parts/FirstStart";
import { Notice } from "../../parts/Notice";
import { useNewDough } from "../../parts/useNewDough";
import { useRemembered } from "../../parts/useRemembered";
import { BringIn } from "./BringIn";

const PAGE = 60;

/** The drawer of doughs: found by name or ingredient while one types, the latest on top. */
export function Drawer() {
  const [search, setSearch] = useRemembered("dough search", "");
  const [most, setMost] = useState(PAGE);
  const [bringing, setBringing] = useState(false);
  const doughs = useQuery(doughsQuery(search, most));
  const words = useQuery(wordsQuery);
  const gone = useLocation().state?.gone === true;
  const start = useNewDough();
  const label = (family: string) => words.data?.families.find((f) => f.key === family)?.label;
  const found = doughs.data;

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
            onChange={(event) => {
              setSearch(event.target.value);
              setMost(PAGE);
            }}
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
      <Notice problem={doughs.error ?? start.error} />
      {gone && (
        <p role="status" className="mt-2 border-l-4 border-caution bg-sheet px-3 py-2">
          That dough is not there, or not any more. Choose one of these.
        </p>
      )}
      <FirstStart />
      {found?.total === 0 && (
        <p className="mt-8 text-lg text-soft">
          {search
            ? "No dough of that name, and none with such an ingredient."
            : "None yet. Start one: write its card line by line, or paste a whole card; then portion it, plan the trays, bake, and write down what came out."}
        </p>
      )}
      {found && found.total > 0 && (
        <>
          <ul aria-label="Doughs" className="mt-4 border-t-2 border-ink">
            {found.doughs.map((dough) => (
              <li key={dough.id} className="border-b border-line">
                <Link
                  to={`/dough/${dough.id}`}
                  className="grid grid-cols-[minmax(0,1fr)_9rem_6rem_7rem_6rem] items-baseline gap-3 py-2.5 hover:bg-wash max-md:grid-cols-[minmax(0,1fr)_6rem]"
                >
                  <span className="text-xl font-semibold break-words">{dough.name}</span>
                  <span className="max-md:hidden">{label(dough.family)}</span>
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
            {found.total === found.doughs.length
              ? `${found.total} in all.`
              : `${found.doughs.length} of ${found.total}, the latest first.`}
            {found.total > found.doughs.length && most < 200 && (
              <button type="button" className="press min-h-9" onClick={() => setMost(200)}>
                Show more
              </button>
            )}
          </p>
        </>
      )}
    </div>
  );
}
