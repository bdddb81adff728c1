import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { BakingSession, Schemas } from "../../api/client";
import { dial, mass, span } from "../../logic/format";
import { FORMS, type Form } from "../../logic/keptAs";
import { parse } from "../../logic/numbers";
import { readTimes, timesWords, tomorrow } from "../../logic/occasion";
import { doughNamesQuery, kindOf, kindsQuery } from "../../logic/queries";
import { wholeDough } from "../../logic/wish";
import { DoughMark } from "../../parts/DoughMark";
import { DoughSelect } from "../../parts/DoughSelect";
import { MomentField } from "../../parts/MomentField";

type Item = Schemas["Wish"]["items"][number];
type Joins = Item["joins"];

const FROM: readonly (readonly [Joins | "later", string])[] = [
  ["fresh", "mixed in it"],
  ["later", "on a later day"],
  ["fridge", "from the fridge"],
  ["freezer", "from the freezer"],
];

interface SessionDoughsProps {
  items: Item[];
  plan: BakingSession | null;
  fault: string | undefined;
  onItems: (items: Item[]) => void;
  name: string | null;
  onName: (name: string | null) => void;
}

/** The doughs of the session, each with how many of its pieces, and where it comes from. */
export function SessionDoughs(props: SessionDoughsProps) {
  const { items, plan, fault, onItems, name, onName } = props;
  const kinds = useQuery(kindsQuery);
  const doughs = useQuery(doughNamesQuery);
  const listed = doughs.data ?? [];
  const now = plan?.now ?? Date.now();
  const cold = items.some((item) => (item.joins ?? "fresh") !== "fresh");
  const change = (place: number, part: Partial<Item>) =>
    onItems(items.map((item, n) => (n === place ? { ...item, ...part } : item)));
  return (
    <section aria-label="Doughs of the session">
      <ul>
        {items.map((item, n) => {
          const letter = String.fromCharCode(65 + n);
          const there = plan?.doughs.find((d) => d.letter === letter);
          const dough = there?.dough_id === item.dough_id ? there : undefined;
          const called = dough?.name ?? listed.find((d) => d.id === item.dough_id)?.name ?? "…";
          // What is cut once it is baked is counted as it is eaten: in slices, not in logs.
          const each = dough?.each_gives ?? 1;
          const says = kindOf(kinds.data, dough?.kind)?.says;
          const pieces = (plan?.trays ?? [])
            .filter((t) => t.dough === dough?.letter)
            .reduce((sum, t) => sum + t.pieces * each, 0);
          return (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: the same dough may come twice
              key={`${item.dough_id} ${n}`}
              className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-0.5"
            >
              <DoughMark letter={letter} />
              <Link
                to={`/tray/${item.dough_id}`}
                className="min-w-40 flex-1 text-lg font-semibold hover:underline"
              >
                {called}
              </Link>
              <Pieces
                name={called}
                item={item}
                pieces={pieces}
                whole={dough?.waits === false && item.joins === "fresh"}
                unit={(each > 1 ? says?.tab.toLowerCase() : says?.counted) ?? "pieces"}
                onPieces={(next) => change(n, { pieces: next })}
              />
              <span className={`flex flex-wrap gap-1.5 ${cold ? "lg:w-[19.5rem]" : ""}`}>
                <select
                  aria-label={`${called} comes`}
                  value={item.bake_from == null ? item.joins : "later"}
                  onChange={(event) => {
                    const from = event.target.value as Joins | "later";
                    const later = from === "later";
                    change(n, {
                      joins: later ? "fresh" : from,
                      bake_from: later ? tomorrow(now) : null,
                    });
                  }}
                >
                  {FROM.map(([key, words]) => (
                    <option key={key} value={key}>
                      {words}
                    </option>
                  ))}
                </select>
                {item.joins !== "fresh" && (
                  <select
                    aria-label={`${called} was kept as`}
                    value={item.form ?? kindOf(kinds.data, dough?.kind)?.kept_as ?? "dough"}
                    onChange={(event) => change(n, { form: event.target.value as Form })}
                  >
                    {FORMS.filter(([key]) => key !== "baked").map(([key, words]) => (
                      <option key={key} value={key}>
                        {words}
                      </option>
                    ))}
                  </select>
                )}
              </span>
              <HowMuch name={called} item={item} onChange={(part) => change(n, part)} />
              <span className="w-16 text-right">{dough ? `${dial(dough.oven_c)}` : ""}</span>
              <button
                type="button"
                className="icon-press"
                aria-label={`Take ${called} out of the session`}
                onClick={() => onItems(items.filter((_, k) => k !== n))}
              >
                ✕
              </button>
              {item.bake_from != null && (
                <span className="flex basis-full items-end justify-end gap-1.5 pr-28 max-sm:pr-0">
                  <MomentField
                    label="not portioned before"
                    of="moment"
                    value={item.bake_from}
                    now={now}
                    onChange={(at) => at !== null && change(n, { bake_from: at })}
                  />
                </span>
              )}
              {item.joins === "fresh" && item.pieces != null && dough && (
                <KeepRest item={item} dough={dough} onChange={(part) => change(n, part)} />
              )}
            </li>
          );
        })}
      </ul>
      {fault && <p className="mt-1 text-caution">{fault}</p>}
      <p className="mt-1.5 flex flex-wrap items-center justify-between gap-3">
        {listed.length > 0 || doughs.isPending ? (
          <DoughSelect
            label="Add a dough to the session"
            empty="Add a dough…"
            value=""
            onChange={(id) => onItems([...items, wholeDough(Number(id))])}
            after={(dough) => (items.some((i) => i.dough_id === dough.id) ? ", once more" : "")}
          />
        ) : (
          <span />
        )}
        {items.length > 0 && (
          <SessionName key={name} name={name} usual={plan?.name ?? ""} onName={onName} />
        )}
      </p>
    </section>
  );
}

interface SessionNameProps {
  name: string | null;
  usual: string;
  onName: (name: string | null) => void;
}

/** What the baker calls the session; its doughs, where nothing is written. */
function SessionName({ name, usual, onName }: SessionNameProps) {
  const [text, setText] = useState(name ?? "");
  const keep = () => {
    const wanted = text.trim() || null;
    if (wanted !== name) onName(wanted);
  };
  return (
    <label className="flex min-w-0 items-center gap-2">
      <span className="flex-none text-soft">called</span>
      <input
        aria-label="Name of the session"
        className="w-72 min-w-0 max-sm:w-full"
        maxLength={120}
        placeholder={name === null ? usual : ""}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && keep()}
      />
    </label>
  );
}

interface HowMuchProps {
  name: string;
  item: Item;
  onChange: (part: Partial<Item>) => void;
}

/** How many times over the dough is made, and the size of its pieces where it is another. */
function HowMuch({ name, item, onChange }: HowMuchProps) {
  const times = item.times ?? 1;
  const [text, setText] = useState(timesWords(times));
  const [shown, setShown] = useState(times);
  if (times !== shown) {
    setShown(times);
    setText(timesWords(times));
  }
  const keep = () => {
    const wanted = readTimes(text);
    if (wanted > 0 && wanted !== times) onChange({ times: wanted });
    else setText(timesWords(times));
  };
  const size =
    item.wide_mm != null
      ? span(item.wide_mm)
      : item.each_g != null
        ? mass(item.each_g)
        : item.share_into != null && `1/${item.share_into}`;
  return (
    <span className="flex items-center gap-1">
      <span aria-hidden="true">×</span>
      <input
        aria-label={`How many times its card ${name} is made`}
        title="Half a dough is ½, two of it 2"
        className="w-14 text-center font-semibold"
        maxLength={8}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && keep()}
      />
      {size && (
        <button
          type="button"
          className="press min-h-8 px-2"
          aria-label={`${size} each; make ${name} as on its Tray screen`}
          onClick={() => onChange({ wide_mm: null, each_g: null, share_into: null })}
        >
          {size} ✕
        </button>
      )}
    </span>
  );
}

const RAW_FORMS: readonly (readonly [NonNullable<Item["keep_as"]>, string])[] = [
  ["portions", "as portions"],
  ["log", "as a log"],
  ["disc", "as a disc"],
  ["dough", "as a lump"],
];

interface KeepRestProps {
  item: Item;
  dough: BakingSession["doughs"][number];
  onChange: (part: Partial<Item>) => void;
}

/** As what the rest is wrapped, and where it goes. */
function KeepRest({ item, dough, onChange }: KeepRestProps) {
  return (
    <span className="flex basis-full flex-wrap items-center justify-end gap-1.5 pr-28 max-sm:pr-0">
      the rest
      <select
        aria-label={`The rest of ${dough.name} is kept`}
        value={item.keep_as ?? dough.keep_as}
        onChange={(event) =>
          onChange({ keep_as: event.target.value as NonNullable<Item["keep_as"]> })
        }
      >
        {RAW_FORMS.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
      <select
        aria-label={`The rest of ${dough.name} goes`}
        value={item.keep_in ?? "freezer"}
        onChange={(event) => onChange({ keep_in: event.target.value as "fridge" | "freezer" })}
      >
        <option value="freezer">into the freezer</option>
        <option value="fridge">into the fridge</option>
      </select>
    </span>
  );
}

interface PiecesProps {
  name: string;
  item: Item;
  pieces: number;
  unit: string;
  /** A batter cannot wait: all of it is baked. */
  whole: boolean;
  onPieces: (pieces: number | null) => void;
}

/** All of it, or so many now and the rest kept cold. */
function Pieces({ name, item, pieces, unit, whole, onPieces }: PiecesProps) {
  const told = item.pieces ? String(item.pieces) : "";
  const [text, setText] = useState(told);
  const [shown, setShown] = useState(told);
  // What is asked for in another way stands here too.
  if (told !== shown) {
    setShown(told);
    setText(told);
  }
  const some = item.pieces != null;
  const keep = () => {
    const wanted = parse(text);
    onPieces(Number.isInteger(wanted) && wanted > 0 ? wanted : null);
    if (!text.trim()) setText("");
  };
  if (whole && !some) {
    return (
      <span className="flex items-center gap-1.5">
        <strong className="w-16 text-right text-lg">{pieces || "all"}</strong>
        <span className="w-36 text-[0.9375rem] leading-tight">{unit}: a batter cannot wait</span>
      </span>
    );
  }
  return (
    <span className="flex items-center gap-1.5">
      <input
        aria-label={`How many ${unit} of ${name}; empty for all`}
        className="w-16 text-right text-lg font-semibold"
        inputMode="numeric"
        placeholder={pieces ? String(pieces) : "all"}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && keep()}
      />
      <span className="w-36 text-[0.9375rem] leading-tight">
        {some
          ? `${unit}, the rest ${item.joins === "fresh" ? "is kept" : "stays cold"}`
          : `${unit}, all of it`}
      </span>
    </span>
  );
}
