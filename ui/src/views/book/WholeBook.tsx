import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import type { Bake } from "../../api/client";
import { fileText } from "../../logic/fileText";
import { bakesQuery, bookWordsQuery, doughNamesQuery } from "../../logic/queries";
import { VERDICTS } from "../../logic/verdicts";
import { PlotExample } from "../../parts/examples/PlotExample";
import { ToStand } from "../../parts/examples/ToStand";
import { Field } from "../../parts/Field";
import { FilePress } from "../../parts/FilePress";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { useRemembered } from "../../parts/useRemembered";
import { BakeList } from "./BakeList";
import { type BookWords, useBringBook } from "./changes";
import { SideBySide } from "./SideBySide";
import { usePair } from "./usePair";

const MOST_SHOWN = 100;

/** Every bake of every dough: searched, filtered, given out and brought in. */
export default function WholeBook() {
  const bakes = useQuery(bakesQuery(null));
  const words = useQuery(bookWordsQuery);
  const doughs = useQuery(doughNamesQuery);
  const [search, setSearch] = useRemembered("book search", "");
  const [verdict, setVerdict] = useRemembered("book verdict", "");
  const [trouble, setTrouble] = useRemembered("book trouble", "");
  const names = useMemo(
    () => new Map((doughs.data ?? []).map((d) => [d.id, d.name])),
    [doughs.data],
  );
  const all = bakes.data ?? [];
  const { picked, pick, pair } = usePair(all);
  const problem = bakes.error ?? words.error ?? doughs.error;
  if (problem) {
    return (
      <div className="p-6">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!bakes.data || !words.data) return <p className="p-6 text-soft">One moment…</p>;
  const found = all.filter(
    (bake) =>
      matches(bake, names.get(bake.dough_id) ?? "", search, words.data) &&
      (verdict === "" || bake.seen.verdict === verdict) &&
      (trouble === "" || (bake.seen.troubles ?? []).includes(trouble)),
  );
  return (
    <div className="flex max-w-5xl flex-1 flex-col gap-4 p-5 max-sm:p-3">
      <h1 className="text-2xl font-bold">The whole book</h1>
      <div className="flex flex-wrap items-end gap-4">
        <Field label="Search">
          {(props) => (
            <input
              {...props}
              type="search"
              placeholder="a dough, a word, a taste"
              className="w-60"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
            />
          )}
        </Field>
        <Select
          label="Next time"
          value={verdict}
          options={[["", "any"] as const, ...VERDICTS]}
          onChange={setVerdict}
        />
        <Select
          label="What went wrong"
          value={trouble}
          options={[["", "any, or nothing"] as const, ...Object.entries(words.data.troubles)]}
          onChange={setTrouble}
        />
        <Files />
      </div>
      {pair && <SideBySide pair={pair} words={words.data} />}
      <p role="status">
        {found.length} of {all.length} bakes
        {found.length > MOST_SHOWN && `, the latest ${MOST_SHOWN} shown`}
      </p>
      {found.length > 0 ? (
        <BakeList
          bakes={found.slice(0, MOST_SHOWN)}
          words={words.data}
          names={names}
          picked={picked}
          onPick={pick}
        />
      ) : all.length > 0 ? (
        <p className="border border-dashed border-line p-8 text-lg text-soft">
          No bake is like that. Search for less.
        </p>
      ) : (
        <ToStand
          example={<PlotExample />}
          press={
            <Link to="/" className="press press-main">
              Choose a dough
            </Link>
          }
        >
          Every bake will stand here, measured beside what was foreseen. The book is empty: write
          down what came out on a dough’s Book, or bring one in from a file.
        </ToStand>
      )}
    </div>
  );
}

function matches(bake: Bake, name: string, search: string, words: BookWords): boolean {
  const { seen } = bake;
  const text = [
    name,
    bake.note,
    bake.tray ?? "",
    ...(seen.tastes ?? []),
    ...(seen.texture ?? []),
    seen.edges ?? "",
    ...(seen.troubles ?? []).map((key) => words.troubles[key] ?? key),
    bake.colour === null ? "" : (words.colours[bake.colour - 1] ?? ""),
  ]
    .join(" ")
    .toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** The book as a CSV file, out and in. */
function Files() {
  const bring = useBringBook();
  return (
    <div className="flex flex-wrap items-center gap-3">
      <a href="/api/book/file" download className="press">
        Give it out as CSV
      </a>
      <FilePress accept=".csv,text/csv" onFile={async (file) => bring.mutate(await fileText(file))}>
        Bring a CSV in
      </FilePress>
      {bring.data && (
        <p role="status">
          {bring.data.added} bakes added
          {bring.data.known > 0 && `, ${bring.data.known} were there already`}
          {bring.data.left_out.length > 0 &&
            `; has no place in the book, and is left out: ${bring.data.left_out.join(", ")}`}
          .
        </p>
      )}
      <Notice problem={bring.error} />
    </div>
  );
}
