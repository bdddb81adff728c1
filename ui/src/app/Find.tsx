import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useRef, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { date } from "../logic/format";
import { findQuery } from "../logic/queries";
import { useKeyDialog } from "../parts/useKeyDialog";

type Found = Schemas["Found"];

const KEY = "/";

const KINDS: Record<Found["kind"], string> = {
  dough: "dough",
  cold: "in the cold",
  bake: "baked",
  ingredient: "ingredient",
  occasion: "to plan again",
};

/** Where it stands. */
const placeOf = (found: Found): string =>
  ({
    dough: `/dough/${found.key}`,
    cold: "/cold",
    bake: `/book/${found.dough_id}`,
    ingredient: `/larder?ingredient=${found.key}`,
    occasion: "/plan",
  })[found.kind];

/** Whatever is kept, found by a few letters, from any screen. */
export function Find() {
  const { open, show, close, dialog } = useKeyDialog(KEY);
  return (
    <>
      <button
        type="button"
        className="flex min-h-11 min-w-11 items-center gap-1.5 text-lg text-soft hover:text-ink"
        aria-keyshortcuts={KEY}
        onClick={show}
      >
        Find
        <span
          aria-hidden="true"
          className="border border-ink px-1.5 text-[0.9375rem] max-sm:hidden pointer-coarse:hidden"
        >
          {KEY}
        </span>
      </button>
      <dialog
        {...dialog}
        aria-label="Find"
        className="mx-auto mt-20 mb-auto w-[40rem] max-w-[94vw] border-2 border-ink bg-sheet p-4 text-ink backdrop:bg-dark/40"
      >
        {open && <Asked onGone={close} />}
      </dialog>
    </>
  );
}

function Asked({ onGone }: { onGone: () => void }) {
  const [text, setText] = useState("");
  const found = useQuery(findQuery(text.trim()));
  const list = useRef<HTMLUListElement>(null);
  const field = useRef<HTMLInputElement>(null);
  const name = useId();
  useEffect(() => field.current?.focus(), []);
  const shown = text.trim() === "" ? [] : (found.data ?? []);
  const go = (by: number) => {
    const links = [...(list.current?.querySelectorAll("a") ?? [])];
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    if (at + by < 0) field.current?.focus();
    else links[Math.min(at + by, links.length - 1)]?.focus();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the arrows go through what is found
    <div
      onKeyDown={(event) => {
        const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
        if (!by) return;
        event.preventDefault();
        go(by);
      }}
    >
      <label htmlFor={name} className="block text-[0.9375rem] text-soft">
        Doughs, bakes, ingredients, what lies in the cold, what is planned again
      </label>
      <div className="flex gap-2">
        <input
          id={name}
          ref={field}
          type="search"
          className="w-full text-xl"
          maxLength={100}
          autoComplete="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") list.current?.querySelector("a")?.click();
          }}
        />
        <button type="button" className="icon-press" aria-label="Close" onClick={onGone}>
          ✕
        </button>
      </div>
      <p role="status" className="py-1 text-[0.9375rem] text-soft">
        {found.error
          ? found.error.message
          : text.trim() && found.data
            ? shown.length === 0
              ? "Nothing has these letters in its name or note."
              : `${shown.length} found`
            : "A few letters of a name or a note are enough."}
      </p>
      <ul ref={list} className="max-h-[55vh] overflow-y-auto">
        {shown.map((one) => (
          <li key={`${one.kind} ${one.key}`} className="border-t border-line">
            <Link
              to={placeOf(one)}
              className="grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-2 py-1.5 hover:bg-wash"
              onClick={onGone}
            >
              <span className="text-soft">{KINDS[one.kind]}</span>
              <span className="min-w-0 break-words">
                <strong>{one.name}</strong>
                {one.kind === "bake" && one.at !== null && `, ${date(one.at)}`}
                {one.said && <span className="block text-[0.9375rem] text-soft">{one.said}</span>}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
