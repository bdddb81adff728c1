import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { DAY, daysLeft } from "../../logic/daysLeft";
import { date } from "../../logic/format";
import { parse } from "../../logic/numbers";
import { DaysStrip } from "../../parts/DaysStrip";
import { Notice } from "../../parts/Notice";
import { type ColdItem, type Place, useBakeIt, useChangeStore } from "./changes";

const OTHERS: Record<Place, readonly Place[]> = {
  fridge: ["freezer"],
  freezer: ["fridge"],
  tin: ["freezer"],
};

/** One thing that is kept: its days as a strip, and what can be done with it. */
export function Kept({ item, now }: { item: ColdItem; now: number }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-line py-2">
      <button
        type="button"
        className="flex w-full flex-wrap items-baseline justify-between gap-x-4 text-left hover:bg-wash wrap-anywhere"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span>
          <strong className="text-lg">{item.name}</strong>
          {item.version && <span className="text-soft"> v{item.version}</span>}
          <span className="block">
            <strong>{item.pieces}</strong> {item.form === "baked" ? "baked" : "pieces as"}{" "}
            {item.form === "baked" ? "pieces" : item.form_words}
            {item.note && `; ${item.note}`}
          </span>
        </span>
        <span className={item.soon ? "font-bold text-caution" : ""}>{daysLeft(item, now)}</span>
      </button>
      <DaysStrip item={item} now={now} className="h-2" />
      {open && <Deeds item={item} now={now} />}
    </li>
  );
}

function Deeds({ item, now }: { item: ColdItem; now: number }) {
  const change = useChangeStore();
  const bake = useBakeIt();
  const navigate = useNavigate();
  const [text, setText] = useState(String(item.pieces));
  const pieces = parse(text);
  const fits = Number.isInteger(pieces) && pieces >= 1 && pieces <= item.pieces;
  const whole = Number.isInteger(pieces) && pieces >= 0;
  const busy = change.isPending || bake.isPending;
  return (
    <div className="flex flex-col gap-2 py-2">
      <p className="text-[0.9375rem] text-soft">
        Since {date(item.since)}. {item.advice}
      </p>
      <div className="flex flex-wrap items-end gap-2">
        <label className="flex flex-col text-[0.9375rem] text-soft">
          pieces
          <input
            className="w-20 text-lg font-semibold text-ink"
            inputMode="numeric"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        {item.form !== "baked" && item.dough_id !== null && (
          <button
            type="button"
            className="press press-main"
            disabled={busy || !fits || item.past}
            onClick={() => bake.mutate({ item, pieces }, { onSuccess: () => navigate("/plan") })}
          >
            Bake them
          </button>
        )}
        <button
          type="button"
          className="press"
          disabled={busy || !fits}
          onClick={() => change.mutate({ do: "take", id: item.id, pieces, why: "" })}
        >
          Take them out
        </button>
        {OTHERS[item.place].map((place) => (
          <button
            key={place}
            type="button"
            className="press"
            disabled={busy}
            onClick={() => change.mutate({ do: "move", id: item.id, place })}
          >
            To the {place}
          </button>
        ))}
        <button
          type="button"
          className="press"
          disabled={busy || !whole || pieces === item.pieces}
          onClick={() => change.mutate({ do: "correct", id: item.id, pieces, note: item.note })}
        >
          Correct the count
        </button>
        <Link to={`/print/label/${item.id}`} className="press">
          Its label
        </Link>
        <button
          type="button"
          className="press"
          disabled={busy}
          onClick={() => change.mutate({ do: "throw", id: item.id })}
        >
          Throw it away
        </button>
      </div>
      <Notice problem={change.error ?? bake.error} />
      <ol className="text-[0.9375rem] text-soft">
        {item.events.map((event) => (
          <li key={`${event.at} ${event.said}`}>
            {date(event.at)}: {event.said}
          </li>
        ))}
      </ol>
      {item.past && (
        <p className="text-caution">
          It is past its day{now > item.use_by + DAY ? "" : " now"}: do not bake or eat it on trust.
        </p>
      )}
    </div>
  );
}
