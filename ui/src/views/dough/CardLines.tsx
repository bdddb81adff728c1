import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId } from "react";
import { useLocation } from "react-router";
import { api, body, type CardBody, type Study, type Weighed, type Words } from "../../api/client";
import type { DraftLine, DraftPart, LineChange } from "../../logic/draft";
import { exampleLine } from "../../logic/format";
import type { Moving } from "../../logic/moving";
import { KEYS, readingsQuery } from "../../logic/queries";
import { pastingOf } from "../../logic/remembered";
import { Notice } from "../../parts/Notice";
import { useRemembered } from "../../parts/useRemembered";
import { DRAGGED } from "./dragged";
import { Line } from "./Line";
import { PasteCard } from "./PasteCard";

interface CardLinesProps {
  lines: DraftLine[];
  weighed: Weighed | undefined;
  own?: Study["own"] | undefined;
  ownUnits?: Study["own_units"];
  checks?: Study["checks"];
  words: Words;
  cupOfDough: CardBody["cup"];
  eggOfDough: CardBody["egg"];
  change: (change: LineChange) => void;
  /** Where a whole card may be pasted; parts take single lines only. */
  onTake?: (read: Partial<CardBody>) => void;
  /** Goes before “line 1” in the names of the fields: “icing ”. */
  of?: string;
  /** Where these lines stand, and where else they could. */
  home: "dough" | number;
  parts: DraftPart[];
  onMoving: (change: Moving) => void;
  /** Lines alone, where more are added elsewhere. */
  plain?: boolean;
}

/** The lines of a card or part: as written, and beside it in grams and percent of the flour. */
export function CardLines(props: CardLinesProps) {
  const { lines, weighed, own, ownUnits = "grams", words, change, onTake, of = "" } = props;
  const { home, parts, onMoving } = props;
  const texts = [...new Set(lines.map((line) => line.text))].filter(Boolean);
  const readings = useQuery(readingsQuery(texts));
  const drop = useDrop(home, onMoving);
  const here = useLocation().pathname;
  const [pasting, setPasting] = useRemembered<string | null>(pastingOf(here, home), null);
  const most = Math.max(100, ...(weighed?.lines.map((l) => l.percent ?? 0) ?? []));
  return (
    <div className="card-lines" data-own={ownUnits !== "grams"}>
      {lines.length > 0 && !props.plain && (
        <div
          aria-hidden="true"
          className="card-line border-b border-ink pb-1 text-[0.9375rem] text-soft"
        >
          <span className="text-right">amount</span>
          <span className="pl-2">unit</span>
          <span className="pl-2">ingredient</span>
          <span className="wide">taken as</span>
          <span className="text-right">weight</span>
          {ownUnits !== "grams" && <span className="wide text-right">yours</span>}
          <span className="text-right">% flour</span>
          <span className="bar" />
          <span className="wide pl-6">for</span>
        </div>
      )}
      <ol {...drop} className="min-h-2">
        {lines.map((line, n) => (
          <Line
            key={line.id}
            line={line}
            place={n}
            last={n === lines.length - 1}
            weighed={weighed?.lines[n]}
            own={ownUnits === "grams" ? undefined : (own?.[n] ?? null)}
            faults={weighed?.faults.filter((f) => f.field.startsWith(`lines.${n}.`)) ?? []}
            checked={(props.checks ?? []).some((c) => c.where === `lines.${n}`)}
            most={most}
            words={words}
            cupOfDough={props.cupOfDough}
            eggOfDough={props.eggOfDough}
            of={of}
            change={change}
            home={home}
            parts={parts}
            onMoving={onMoving}
            readings={readings.data ?? NONE}
          />
        ))}
      </ol>
      {props.plain ? null : (
        <>
          <TypeLine
            of={of}
            onAdd={(added) => change({ do: "paste", lines: added })}
            onMany={onTake ? setPasting : undefined}
          />
          <div className="mt-3 flex flex-wrap gap-3">
            <button type="button" className="press" onClick={() => change({ do: "add" })}>
              Add a line
            </button>
            {onTake && (
              <button
                type="button"
                className="press"
                aria-expanded={pasting !== null}
                onClick={() => setPasting(pasting === null ? "" : null)}
              >
                Paste a card
              </button>
            )}
          </div>
        </>
      )}
      {pasting !== null && onTake && (
        <PasteCard
          words={words}
          initial={pasting}
          onTake={(read) => {
            onTake(read);
            setPasting(null);
          }}
          onClose={() => setPasting(null)}
        />
      )}
    </div>
  );
}

const NONE = new Map();

/** Lines are dropped between these, from wherever they are dragged. */
function useDrop(home: "dough" | number, onMoving: (change: Moving) => void) {
  return {
    onDragOver: (event: React.DragEvent) => {
      if (event.dataTransfer.types.includes(DRAGGED)) event.preventDefault();
    },
    onDrop: (event: React.DragEvent<HTMLOListElement>) => {
      const id = Number(event.dataTransfer.getData(DRAGGED));
      if (!id) return;
      event.preventDefault();
      const rows = [...event.currentTarget.children].map((row) => row.getBoundingClientRect());
      const at = rows.filter((row) => event.clientY > row.top + row.height / 2).length;
      onMoving({ do: "moveLine", id, to: home, at });
    },
  };
}

interface TypeLineProps {
  of: string;
  onAdd: (lines: CardBody["lines"]) => void;
  onMany: ((text: string) => void) | undefined;
}

/** One line typed as it stands on the card; Enter reads it and makes room for the next. */
function TypeLine({ of, onAdd, onMany }: TypeLineProps) {
  const id = useId();
  const [text, setText] = useRemembered(`line ${useLocation().pathname} ${of}`, "");
  const queries = useQueryClient();
  const read = useMutation({
    // One after the other: lines join the card in the order in which they were typed.
    scope: { id },
    mutationFn: (line: string) => body(api.POST("/api/read", { body: { text: line } })),
    // The field is free for the next line at once; one that could not be read comes back to it.
    onMutate: () => setText(""),
    onError: (_, line) => setText((typed) => typed || line),
    onSuccess: (card) => {
      onAdd(card.lines.map((line) => line.line));
      queries.invalidateQueries({ queryKey: KEYS.read });
    },
  });
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) read.mutate(text.replace(/[\r\n]+/g, " "));
      }}
    >
      <label htmlFor={id} className="text-[0.9375rem] text-soft">
        Type the next {of}line as it stands on the card, then Enter
      </label>
      <input
        id={id}
        className="block w-full text-lg"
        placeholder={exampleLine()}
        value={text}
        maxLength={500}
        autoComplete="off"
        onChange={(event) => setText(event.target.value)}
        onPaste={(event) => {
          const pasted = event.clipboardData.getData("text");
          if (onMany && pasted.trim().includes("\n")) {
            event.preventDefault();
            onMany(pasted);
          }
        }}
      />
      <Notice problem={read.error} />
    </form>
  );
}
