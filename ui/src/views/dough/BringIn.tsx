import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { useNavigate } from "react-router";
import { api, body, type Schemas } from "../../api/client";
import { mass } from "../../logic/format";
import { KEYS } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { cardFile } from "./cardFile";

type Brought = Schemas["BroughtOut"];

type Chosen = Schemas["DoughFileBody"];

/** Bring doughs in from a file: see what is understood, then keep all of it or none. */
export function BringIn({ onClose }: { onClose: () => void }) {
  const id = useId();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [tooLarge, setTooLarge] = useState<Error | null>(null);
  const look = useMutation({
    mutationFn: (file: Chosen) => body(api.POST("/api/bring-in/look", { body: file })),
  });
  const keep = useMutation({
    mutationFn: (file: Chosen) => body(api.POST("/api/bring-in", { body: file })),
    onSuccess: async (kept) => {
      await queries.invalidateQueries({ queryKey: KEYS.doughs });
      if (kept.length === 1 && kept[0]) navigate(`/dough/${kept[0].id}`);
      else onClose();
    },
  });
  const chosen = look.variables;

  const choose = async (file: File | undefined) => {
    keep.reset();
    look.reset();
    setTooLarge(null);
    if (!file) return;
    try {
      look.mutate(await cardFile(file, "bring in fewer doughs at once"));
    } catch (error) {
      setTooLarge(error as Error);
    }
  };

  return (
    <section aria-labelledby={id} className="mt-4 border-2 border-ink bg-sheet p-4">
      <h2 id={id} className="text-lg font-bold">
        Bring in a file
      </h2>
      <label className="mt-2 flex flex-col gap-1">
        A Recipe as JSON-LD (.json, .jsonld) or in a saved web page, a formula as CSV, or a card as
        plain text; at most 1 MB and 500 lines
        <input
          type="file"
          accept=".html,.htm,.json,.jsonld,.csv,.txt,.md,application/ld+json,text/csv,text/plain"
          className="py-1"
          onChange={(event) => choose(event.target.files?.[0])}
        />
      </label>
      <Notice problem={tooLarge ?? look.error ?? keep.error} />
      {look.data && chosen && (
        <>
          <ul aria-label="What is understood" className="mt-3">
            {look.data.doughs.map((dough, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: names may repeat
              <BroughtRow key={n} dough={dough} />
            ))}
          </ul>
          <button
            type="button"
            className="press press-main mt-3"
            disabled={keep.isPending}
            onClick={() => keep.mutate(chosen)}
          >
            {look.data.doughs.length === 1
              ? "Keep this dough"
              : `Keep these ${look.data.doughs.length} doughs`}
          </button>
        </>
      )}
      <button type="button" className="press mt-3 ml-3" onClick={onClose}>
        Leave it
      </button>
    </section>
  );
}

function BroughtRow({ dough }: { dough: Brought }) {
  return (
    <li className="border-t border-line py-2">
      <strong className="text-lg">{dough.name}</strong>, {dough.lines}{" "}
      {dough.lines === 1 ? "line" : "lines"}, {mass(dough.total_g)}
      {dough.steps > 0 && `, ${dough.steps} steps`}
      {dough.parts > 0 && `, ${dough.parts} ${dough.parts === 1 ? "part" : "parts"} beside it`}
      {dough.asks.length > 0 && (
        <ul>
          {dough.asks.map((ask) => (
            <li key={ask} className="text-[0.9375rem]">
              <strong className="text-caution">Look:</strong> {ask}
            </li>
          ))}
        </ul>
      )}
      <LeftOut names={dough.left_out} />
    </li>
  );
}

/** What of a file has no place on a card. */
export function LeftOut({ names }: { names: string[] }) {
  if (names.length === 0) return null;
  return (
    <p className="text-[0.9375rem] text-soft">
      Left out, for it has no place on a card: {names.join(", ")}.
    </p>
  );
}
