import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { api, body, type Ingredient, type Line, type Schemas } from "../../api/client";
import { grams } from "../../app/format";
import { Notice } from "../../parts/Notice";

type ReadLine = Schemas["ReadLineOut"];

/** A card's lines in grams and questions while they are typed or pasted. */
const useReadCard = (text: string) =>
  useQuery({
    queryKey: ["read", text],
    queryFn: ({ signal }) => body(api.POST("/api/read", { body: { text }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    enabled: text.trim() !== "",
  });

interface PasteCardProps {
  ingredients: Ingredient[];
  onAdd: (lines: Line[]) => void;
  onClose: () => void;
}

/** Paste the ingredients of a written card: see what is understood, then take it over. */
export function PasteCard({ ingredients, onAdd, onClose }: PasteCardProps) {
  const id = useId();
  const [text, setText] = useState("");
  const read = useReadCard(text);
  const lines = text.trim() === "" ? [] : (read.data ?? []);
  return (
    <section aria-labelledby={id} className="mt-4 border-2 border-ink bg-sheet p-4">
      <h2 id={id} className="text-lg font-bold">
        Paste a card’s ingredients, one a line
      </h2>
      <textarea
        aria-labelledby={id}
        className="mt-2 w-full text-lg"
        rows={5}
        value={text}
        placeholder={"2 1/4 cups plain flour\n1 cup (2 sticks) butter, softened\n2 large eggs"}
        onChange={(event) => setText(event.target.value)}
        // biome-ignore lint/a11y/noAutofocus: it opens on a press of its own button
        autoFocus
      />
      <Notice problem={read.error} />
      {lines.length > 0 && !read.error && (
        <ol aria-label="As understood" className="mt-2">
          {lines.map((line, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines may repeat, and have no other name
            <Understood key={n} line={line} ingredients={ingredients} />
          ))}
        </ol>
      )}
      <div className="mt-3 flex gap-3">
        <button
          type="button"
          className="press press-main"
          disabled={lines.length === 0 || read.isPlaceholderData || Boolean(read.error)}
          onClick={() => onAdd(lines.map((line) => line.line))}
        >
          Add {lines.length === 1 ? "this line" : `these ${lines.length} lines`}
        </button>
        <button type="button" className="press" onClick={onClose}>
          Leave it
        </button>
      </div>
    </section>
  );
}

function Understood({ line, ingredients }: { line: ReadLine; ingredients: Ingredient[] }) {
  const name = ingredients.find((i) => i.key === line.line.ingredient)?.name;
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-4 border-t border-line py-1.5 max-sm:grid-cols-1">
      <span className="break-words text-soft">{line.text}</span>
      <span>
        <strong>{line.grams === null ? "no amount" : `${grams(line.grams)} g`}</strong>{" "}
        {name ?? "not known"}
        {line.asks.map((ask) => (
          <span key={ask} className="block text-[0.9375rem]">
            <strong className="text-caution">Look:</strong> {ask}
          </span>
        ))}
      </span>
    </li>
  );
}
