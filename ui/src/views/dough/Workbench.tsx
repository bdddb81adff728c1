import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { api, body, type Dough, type TraySetting, type Words } from "../../api/client";
import { askAgain } from "../../logic/askAgain";
import { type Card, plainCard } from "../../logic/draft";
import { cardWithScale } from "../../logic/fromCard";
import {
  doughQuery,
  KEYS,
  kindOf,
  kindsQuery,
  kitchenQuery,
  studyQuery,
} from "../../logic/queries";
import { AimPanel } from "../../parts/aim/AimPanel";
import { FromCard } from "../../parts/FromCard";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { CardLines } from "./CardLines";
import { GiveOut } from "./GiveOut";
import { Measuring } from "./Measuring";
import { Method } from "./Method";
import { PartLines } from "./PartLines";
import { Parts } from "./Parts";
import { ScalePanel } from "./ScalePanel";
import { StudyPanel } from "./StudyPanel";
import { SwapPanel } from "./SwapPanel";
import { type Editing, useDraft } from "./useDraft";
import { VersionsPanel } from "./VersionsPanel";

const asOptions = <T extends string>(labels: { key: T; label: string }[]) =>
  labels.map(({ key, label }) => [key, label] as const);

/** Undo and redo by their usual keys, where the field itself has nothing to undo. */
function useHistoryKeys(change: Editing["change"]) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      change({ do: event.shiftKey ? "redo" : "undo" });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [change]);
}

const PANELS = [
  ["lines", "Ingredients"],
  ["method", "Method"],
  ["parts", "Parts"],
  ["scale", "Scale"],
  ["aim", "Aim"],
  ["swap", "Swap"],
  ["versions", "Versions"],
  ["give", "Give out"],
] as const;

type Panel = (typeof PANELS)[number][0];

/** A dough on the bench: a change in one place shows everywhere at once. */
export function Workbench({ dough, words }: { dough: Dough; words: Words }) {
  const editing = useDraft(dough);
  const { draft, change } = editing;
  const { card } = draft;
  const queries = useQueryClient();
  // Other units draw all of it anew.
  useQuery(kitchenQuery);
  const kinds = useQuery(kindsQuery);
  // What the card says of the tray follows what is kept of the card.
  const { tray } = dough;
  const [panel, setPanel] = useState<Panel>("lines");
  const plain = useMemo(() => plainCard(card), [card]);
  const study = useQuery(studyQuery(plain, tray, dough.id));
  useHistoryKeys(change);

  const keepTray = async (next: TraySetting) => {
    const after = await body(
      api.PUT("/api/doughs/{dough_id}/tray", {
        params: { path: { dough_id: dough.id } },
        body: next,
      }),
    );
    // The tray's own screen begins with what is kept, not with what it last saw.
    queries.setQueryData(doughQuery(dough.id).queryKey, after);
    await askAgain(queries, [...KEYS.foreseen, dough.id], [...KEYS.ladder, dough.id]);
  };

  return (
    <div className="grid grid-cols-1 content-start gap-x-8 gap-y-4 p-6 max-sm:p-3 xl:grid-cols-[minmax(0,1fr)_19.5rem]">
      <section aria-label="Card" className="flex min-w-0 flex-col gap-3">
        <Head editing={editing} words={words} />
        {study.data && (
          <FromCard
            begun={study.data.begun}
            tray={tray}
            onTray={keepTray}
            onOven={(written) =>
              change({ do: "write", part: cardWithScale(card, written), touch: "" })
            }
          />
        )}
        <Tabs.Root value={panel} onValueChange={(next) => setPanel(next as Panel)}>
          <div className="mb-3 flex flex-wrap items-end gap-x-4 border-b-2 border-ink">
            <Tabs.List aria-label="What to do with the dough" className="flex flex-wrap gap-x-1">
              {PANELS.map(([key, label]) => (
                <Tabs.Trigger
                  key={key}
                  value={key}
                  className="min-h-10 px-3 text-lg text-soft hover:text-ink data-[state=active]:bg-ink data-[state=active]:font-semibold data-[state=active]:text-paper"
                >
                  {label}
                  {key === "parts" && card.parts.length > 0 && ` ${card.parts.length}`}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Link to="/dough" className="ml-auto self-center text-soft underline hover:text-ink">
              All doughs
            </Link>
          </div>
          <Tabs.Content value="lines" tabIndex={-1}>
            <Measuring card={card} words={words} change={change} />
            <CardLines
              lines={card.lines}
              weighed={study.data?.weighed}
              own={study.data?.own}
              ownUnits={study.data?.own_units ?? "grams"}
              checks={study.data?.checks ?? []}
              words={words}
              eggOfDough={card.egg}
              cupOfDough={card.cup}
              change={change}
              home="dough"
              parts={card.parts}
              onMoving={change}
              onTake={(read) =>
                change({
                  do: "take",
                  card: {
                    ...read,
                    ...(card.lines.length > 0 ? { family: card.family, mixing: card.mixing } : {}),
                    name: card.name === "New dough" ? (read.name ?? "") : "",
                    steps: card.steps.length === 0 ? (read.steps ?? []) : [],
                  },
                })
              }
            />
            <PartLines card={card} words={words} study={study.data} change={change} />
          </Tabs.Content>
          <Tabs.Content value="method" tabIndex={-1}>
            <Method
              card={card}
              words={words}
              study={study.data}
              fresh={study.isSuccess && !study.isPlaceholderData}
              change={change}
            />
          </Tabs.Content>
          <Tabs.Content value="parts" tabIndex={-1}>
            <Parts card={card} words={words} study={study.data} change={change} />
          </Tabs.Content>
          <Tabs.Content value="scale" tabIndex={-1}>
            <ScalePanel
              card={plain}
              words={words}
              pieceG={study.data?.piece?.raw.grams ?? 28}
              change={change}
            />
          </Tabs.Content>
          <Tabs.Content value="aim" tabIndex={-1}>
            <AimPanel
              dough={dough}
              setting={tray}
              wide={kindOf(kinds.data, tray.piece.kind)?.says.across !== ""}
              press="Make it a version"
              busy={!editing.saved}
              problem={null}
              onTake={(way, _, said) => {
                change({ do: "replace", card: way.card, reason: said });
                void keepTray(way.setting);
                setPanel("lines");
              }}
            />
          </Tabs.Content>
          <Tabs.Content value="swap" tabIndex={-1}>
            <SwapPanel
              card={plain}
              tray={tray}
              doughId={dough.id}
              words={words}
              onTake={(after, reason) => {
                change({ do: "replace", card: after, reason });
                setPanel("lines");
              }}
            />
          </Tabs.Content>
          <Tabs.Content value="versions" tabIndex={-1}>
            <VersionsPanel
              doughId={dough.id}
              card={plain}
              tray={tray}
              words={words}
              onBack={(before, reason) => change({ do: "replace", card: before, reason })}
            />
          </Tabs.Content>
          <Tabs.Content value="give" tabIndex={-1}>
            <GiveOut dough={dough} name={card.name} />
          </Tabs.Content>
        </Tabs.Root>
        <Notice problem={study.error} />
        <Kept editing={editing} />
      </section>
      <StudyPanel
        dough={dough}
        study={study.data}
        tray={tray}
        card={card}
        change={change}
        onOven={(oven_c) => keepTray({ ...tray, oven_c })}
        onShow={(where) => show(where, setPanel)}
      />
    </div>
  );
}

/** Go to what a check is about. */
function show(where: string, setPanel: (panel: Panel) => void) {
  const [room, number] = where.split(".");
  setPanel(room === "steps" ? "method" : "lines");
  const label =
    room === "steps" ? `Step ${Number(number) + 1}` : `Amount, line ${Number(number) + 1}`;
  const field = room === "lines" || room === "steps" ? label : "What the card says of the oven";
  requestAnimationFrame(() =>
    document.querySelector<HTMLElement>(`[aria-label="${field}"]`)?.focus(),
  );
}

function Head({ editing, words }: { editing: Editing; words: Words }) {
  const { draft, change } = editing;
  const { card } = draft;
  const emptyName = card.name.trim() === "";
  return (
    <>
      <h1 className="sr-only">{card.name || "A dough without a name"}</h1>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <textarea
          aria-label="Name of the dough"
          aria-invalid={emptyName}
          className="field-sizing-content min-w-64 flex-1 resize-none border-0 border-b border-line bg-transparent px-0 text-3xl leading-tight font-bold"
          rows={1}
          value={card.name}
          maxLength={80}
          onChange={(event) =>
            change({ do: "write", part: { name: event.target.value.replace(/\s*\n\s*/g, " ") } })
          }
        />
        <Select
          label="Family"
          value={card.family}
          options={asOptions<Card["family"]>(words.families)}
          onChange={(family) => change({ do: "write", part: { family } })}
        />
        <Select
          label="Mixed by"
          value={card.mixing}
          options={asOptions<Card["mixing"]>(words.mixing)}
          onChange={(mixing) => change({ do: "write", part: { mixing } })}
        />
        <span className="flex gap-2">
          <button
            type="button"
            className="press min-h-9"
            disabled={draft.past.length === 0}
            onClick={() => change({ do: "undo" })}
          >
            Take back
          </button>
          <button
            type="button"
            className="press min-h-9"
            disabled={draft.future.length === 0}
            onClick={() => change({ do: "redo" })}
          >
            Again
          </button>
        </span>
      </div>
      {emptyName && (
        <p className="text-caution">Give the dough a name; until then it is not kept.</p>
      )}
    </>
  );
}

/** Whether all is kept; and the way out when another window changed the same dough. */
function Kept({ editing }: { editing: Editing }) {
  const { draft, problem, saved, conflict, keepMine, takeTheirs } = editing;
  const emptyName = draft.card.name.trim() === "";
  return (
    <>
      <Notice problem={emptyName ? null : problem}>
        {conflict && (
          <>
            <button type="button" className="press min-h-9" onClick={keepMine}>
              Keep this one as a new version
            </button>
            <button type="button" className="press min-h-9" onClick={takeTheirs}>
              Take the other one
            </button>
          </>
        )}
      </Notice>
      <p role="status" className="text-[0.9375rem] text-soft">
        {saved ? "Kept." : problem || emptyName ? "Not kept yet." : "Keeping…"}
      </p>
    </>
  );
}
