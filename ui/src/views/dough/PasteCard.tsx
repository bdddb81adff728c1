import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { useLocation } from "react-router";
import { api, body, type CardBody, type Line, type Schemas, type Words } from "../../api/client";
import { dial, exampleLine, exampleOven, mass, massBetween } from "../../logic/format";
import { withScale } from "../../logic/fromCard";
import { KEYS, readQuery } from "../../logic/queries";
import { forget } from "../../logic/remembered";
import { DropFile } from "../../parts/DropFile";
import { FilePress } from "../../parts/FilePress";
import { FromCard } from "../../parts/FromCard";
import { IngredientPicker } from "../../parts/IngredientPicker";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { useRemembered } from "../../parts/useRemembered";
import { LeftOut } from "./BringIn";
import { cardFile } from "./cardFile";
import { OtherReadings } from "./OtherReadings";
import { partWords } from "./partKinds";

type ReadCard = Schemas["Understood"];
type ReadLine = Schemas["ReadLine"];
type Kinds = Pick<CardBody, "family" | "mixing">;

/** Lines taken in another reading than the first, by the line that was read. */
type Taken = ReadonlyMap<ReadLine, Line>;

const taken = (read: ReadCard, chosen: Partial<Kinds>, other: Taken): Partial<CardBody> => ({
  ...read.card,
  ...chosen,
  name: read.title.slice(0, 80),
  lines: read.lines.map((line) => other.get(line) ?? line.line),
  parts: read.card.parts.map((part, n) => ({
    ...part,
    lines: (read.parts[n]?.lines ?? []).map((line) => other.get(line) ?? line.line),
  })),
});

interface PasteCardProps {
  words: Words;
  initial: string;
  onTake: (read: Partial<CardBody>) => void;
  onClose: () => void;
}

/** Paste a written card: see what is understood of it, then take it over. */
export function PasteCard({ words, initial, ...on }: PasteCardProps) {
  const id = useId();
  const typed = `card ${useLocation().pathname} `;
  const [text, setText] = useRemembered(`${typed}text`, initial);
  const [chosen, setChosen] = useRemembered<Partial<Kinds>>(`${typed}kinds`, {});
  const [other, setOther] = useState<Taken>(new Map());
  const done = () => {
    forget(`${typed}text`);
    forget(`${typed}kinds`);
  };
  const onClose = () => {
    done();
    on.onClose();
  };
  const onTake = (read: Partial<CardBody>) => {
    done();
    on.onTake(read);
  };
  const read = useQuery(readQuery(text));
  const dropped = useMutation({
    mutationFn: async (file: File) => {
      const written = await cardFile(file, "paste what is on the card instead");
      return body(api.POST("/api/card-text", { body: written }));
    },
    onSuccess: (card) => setText(card.text),
  });
  const card = text.trim() === "" ? undefined : read.data;
  const count = card?.lines.length ?? 0;
  const empty = !card || (count === 0 && card.steps.length === 0 && card.parts.length === 0);
  return (
    <section aria-labelledby={id} className="mt-4 border-2 border-ink bg-sheet p-4">
      <DropFile says="Drop the card here" onFile={dropped.mutate} />
      <h2 id={id} className="text-lg font-bold">
        Paste a card: its title, ingredients, steps, oven and yield, or only some of them
      </h2>
      <textarea
        aria-labelledby={id}
        className="mt-2 w-full text-lg"
        rows={6}
        value={text}
        placeholder={`Oat rounds\nMakes 24\n${exampleLine()}\n2 large eggs\nBake at ${dial(exampleOven())} for 12 minutes`}
        onChange={(event) => setText(event.target.value)}
        // biome-ignore lint/a11y/noAutofocus: it opens on a press of its own button
        autoFocus
      />
      <p className="text-[0.9375rem] text-soft">
        Or drop a file here: a card as text, or a saved web page with a recipe;{" "}
        <FilePress
          accept=".html,.htm,.json,.jsonld,.txt,.md,text/html,text/plain,application/ld+json"
          className="cursor-pointer underline"
          onFile={dropped.mutate}
        >
          choose one
        </FilePress>
        .
      </p>
      <Notice problem={dropped.error ?? read.error} />
      <LeftOut names={dropped.data?.left_out ?? []} />
      {card && !read.error && (
        <>
          <FromCard
            begun={card.begun}
            onOven={(written) => setText(withScale(text, written) ?? text)}
          >
            {card.steps.length > 0 && (
              <KindsOf card={card} chosen={chosen} words={words} onChoose={setChosen} />
            )}
          </FromCard>
          <Understood
            card={card}
            words={words}
            other={other}
            onOther={(read, line) => setOther(new Map(other).set(read, line))}
          />
        </>
      )}
      <div className="mt-3 flex gap-3">
        <button
          type="button"
          className="press press-main"
          disabled={empty || read.isPlaceholderData || Boolean(read.error)}
          onClick={() => card && onTake(taken(card, chosen, other))}
        >
          {card && count > 0
            ? `Add ${count === 1 ? "this line" : `these ${count} lines`}`
            : "Add it"}
          {card &&
            card.steps.length > 0 &&
            ` and ${card.steps.length} ${card.steps.length === 1 ? "step" : "steps"}`}
        </button>
        <button type="button" className="press" onClick={onClose}>
          Leave it
        </button>
      </div>
    </section>
  );
}

interface KindsOfProps {
  card: ReadCard;
  chosen: Partial<Kinds>;
  words: Words;
  onChoose: (chosen: Partial<Kinds>) => void;
}

/** Family and mixing as the card tells of them, or guessed; either may be chosen otherwise. */
function KindsOf({ card, chosen, words, onChoose }: KindsOfProps) {
  const guess = (field: "family" | "mixing") =>
    !chosen[field] && card.guessed.includes(field) ? ", a guess" : "";
  return (
    <>
      <Select
        label={`Family${guess("family")}`}
        value={chosen.family ?? card.card.family}
        options={words.families.map(({ key, label }) => [key, label] as const)}
        onChange={(family) => onChoose({ ...chosen, family })}
      />
      <Select
        label={`Mixed by${guess("mixing")}`}
        value={chosen.mixing ?? card.card.mixing}
        options={words.mixing.map(({ key, label }) => [key, label] as const)}
        onChange={(mixing) => onChoose({ ...chosen, mixing })}
      />
    </>
  );
}

interface UnderstoodProps {
  card: ReadCard;
  words: Words;
  other: Taken;
  onOther: (read: ReadLine, line: Line) => void;
}

/** What was understood of a card, line by line, with the questions that it leaves. */
function Understood({ card, words, other, onOther }: UnderstoodProps) {
  const row = (line: ReadLine, n: number) => (
    <UnderstoodLine
      key={n}
      read={line}
      line={other.get(line) ?? line.line}
      words={words}
      onOther={(taken) => onOther(line, taken)}
    />
  );
  return (
    <>
      {card.title && (
        <p className="mt-2">
          Title: <strong>{card.title}</strong>
        </p>
      )}
      {card.lines.length > 0 && (
        <ol aria-label="As understood" className="mt-2">
          {card.lines.map(row)}
        </ol>
      )}
      {card.parts.map((part) => (
        <div key={part.name} className="mt-3">
          <h3 className="font-semibold">{partWords(part)}</h3>
          <ol aria-label={`As understood: ${part.name}`}>{part.lines.map(row)}</ol>
        </div>
      ))}
      {card.steps.length > 0 && (
        <ol aria-label="Steps as understood" className="mt-3 list-decimal pl-6">
          {card.steps.map((step) => (
            <li key={step.text}>{step.text}</li>
          ))}
        </ol>
      )}
      {card.notes.length > 0 && (
        <p className="mt-3">
          Kept as a note, since it fits nowhere else: <em>{card.notes.join(" · ")}</em>
        </p>
      )}
    </>
  );
}

interface UnderstoodLineProps {
  read: ReadLine;
  line: Line;
  words: Words;
  onOther: (line: Line) => void;
}

function UnderstoodLine({ read, line, words, onOther }: UnderstoodLineProps) {
  const name = words.ingredients.find((i) => i.key === line.ingredient)?.name;
  const first = { line: read.line, grams: read.grams ?? 0 };
  const readings = read.others.length > 0 ? [first, ...read.others] : [];
  const weight = readings.find((one) => one.line === line)?.grams ?? read.grams;
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-4 border-t border-line py-1.5 max-sm:grid-cols-1">
      <span className="break-words text-soft">{read.text}</span>
      <span>
        <strong>{weight === null ? "no amount" : mass(weight)}</strong> {name ?? "not known"}
        {read.range_g && ` (${massBetween(read.range_g.low, read.range_g.high)}, to taste)`}
        <OtherReadings line={line} readings={readings} words={words} onTake={onOther} />
        {read.asks.map((ask) => (
          <span key={ask} className="block text-[0.9375rem]">
            <strong className="text-caution">Look:</strong> {ask}
          </span>
        ))}
        {!name && read.name && <Teach name={read.name} words={words} />}
      </span>
    </li>
  );
}

/** Say what an unknown name means; it is remembered, and the card is read again. */
function Teach({ name, words }: { name: string; words: Words }) {
  const queries = useQueryClient();
  const again = async () => {
    queries.invalidateQueries({ queryKey: KEYS.larder });
    await queries.invalidateQueries({ queryKey: KEYS.words });
    await queries.invalidateQueries({ queryKey: KEYS.read });
  };
  const teach = useMutation({
    mutationFn: (ingredient: string) =>
      body(api.POST("/api/names", { body: { name, ingredient } })),
    onSuccess: again,
  });
  const add = useMutation({
    mutationFn: async (like: string) => {
      const shelf = await body(api.GET("/api/larder"));
      const model = shelf.find((one) => one.key === like);
      if (!model) throw new Error("That is not in the larder any more. Choose another.");
      const source = `as ${model.facts.name}, until better is known`;
      const facts = { ...model.facts, name: name.slice(0, 60), source };
      return body(api.POST("/api/larder", { body: facts }));
    },
    onSuccess: again,
  });
  return (
    <span className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-[0.9375rem]">
      <span className="flex items-center gap-1">
        It is
        <span className="w-52 border border-line">
          <IngredientPicker
            label={`What “${name}” is`}
            ingredients={words.ingredients}
            value={null}
            onChange={(key) => teach.mutate(key)}
          />
        </span>
      </span>
      <span className="flex items-center gap-1">
        or new, much like
        <span className="w-52 border border-line">
          <IngredientPicker
            label={`What “${name}” is much like`}
            ingredients={words.ingredients}
            value={null}
            onChange={(key) => add.mutate(key)}
          />
        </span>
      </span>
      <Notice problem={teach.error ?? add.error} />
    </span>
  );
}
