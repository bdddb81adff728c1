import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type BakingSession, body, ProblemError, type Schemas } from "../../api/client";
import { when } from "../../logic/format";
import {
  eggsWords,
  type FreeTime,
  keepsWords,
  movedHours,
  nextSaturday,
  type Occasion,
  type OccasionKind,
  timesWords,
  usualHours,
} from "../../logic/occasion";
import { doughNamesQuery } from "../../logic/queries";
import { forget } from "../../logic/remembered";
import type { Wish } from "../../logic/wish";
import { Choice } from "../../parts/Choice";
import { DoughSelect } from "../../parts/DoughSelect";
import { MomentField } from "../../parts/MomentField";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";
import { Scrolled } from "../../parts/Scrolled";
import { Stepper } from "../../parts/Stepper";
import { useRemembered } from "../../parts/useRemembered";
import { KeptOccasions } from "./KeptOccasions";

const MOST_HOURS = 14;
const BY = [
  ["pieces", "pieces in all"],
  ["people", "people"],
] as const;
type By = (typeof BY)[number][0];

interface OccasionPanelProps {
  plan: BakingSession | null;
  wish: Wish;
  now: number;
  onWish: (wish: Wish) => void;
}

const newKind = (dough_id: number): OccasionKind => ({ dough_id, whole_cards: false });

/** The occasion as it is on the screen: what was planned for last, or a first guess. */
function usualOccasion(wish: Wish, now: number): Occasion {
  if (wish.occasion) return wish.occasion;
  const at = nextSaturday(now);
  const kinds = wish.items.map((item) => newKind(item.dough_id));
  return { at, kinds, pieces: 60, people: null, each: 4, free: usualHours(at, now) };
}

/** For whom, how much, in which kinds, by when: the doughs and their days follow from it. */
export function OccasionPanel({ plan, wish, now, onWish }: OccasionPanelProps) {
  const [open, setOpen] = useRemembered("occasion open", false);
  const [made, setMade] = useState<Schemas["Proposal"] | null>(null);
  const there = made !== null && wish.occasion?.at === made.wish.occasion?.at;
  return (
    <section aria-label="The occasion" className="flex flex-col gap-2 border-b border-line pb-2">
      <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className="cursor-pointer text-lg font-bold">
          For an occasion{" "}
          <span className="text-[0.9375rem] font-normal text-soft">
            {wish.occasion
              ? `${wish.occasion.name ?? "on the table"} ${when(wish.occasion.at, now)}`
              : "how many, in which kinds, by when: doughs and days follow"}
          </span>
        </summary>
        {open && (
          <OccasionForm
            plan={plan}
            wish={wish}
            now={now}
            onMade={(found) => {
              setMade(found);
              setOpen(false);
              onWish({
                ...found.wish,
                sheets: wish.sheets,
                shelves: wish.shelves,
                calm: wish.calm,
              });
            }}
          />
        )}
      </details>
      {there && <KindsTable kinds={made.kinds} now={now} />}
    </section>
  );
}

interface OccasionFormProps {
  plan: BakingSession | null;
  wish: Wish;
  now: number;
  onMade: (found: Schemas["Proposal"]) => void;
}

function OccasionForm({ plan, wish, now, onMade }: OccasionFormProps) {
  const [asked, setAsked] = useRemembered("occasion", () => usualOccasion(wish, now));
  const doughs = useQuery(doughNamesQuery);
  const listed = doughs.data ?? [];
  const propose = useMutation({
    mutationFn: (occasion: Occasion) => body(api.POST("/api/plan/occasion", { body: occasion })),
    onSuccess: (found) => {
      forget("occasion");
      onMade(found);
    },
  });
  const by: By = asked.people == null ? "pieces" : "people";
  const change = (part: Partial<Occasion>) => setAsked((before) => ({ ...before, ...part }));
  const changeKind = (place: number, part: Partial<OccasionKind>) =>
    change({ kinds: asked.kinds.map((kind, n) => (n === place ? { ...kind, ...part } : kind)) });
  const fault = (field: string) =>
    propose.error instanceof ProblemError ? propose.error.at(field) : undefined;
  const nameOf = (id: number) => listed.find((dough) => dough.id === id)?.name ?? "…";
  return (
    <div className="mt-2 flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
        <MomentField
          label="On the table"
          of="moment"
          value={asked.at}
          now={now}
          fault={fault("at")}
          onChange={(at) =>
            at !== null && change({ at, free: movedHours(asked.free ?? [], asked.at, at) })
          }
        />
        <Choice
          label="Counted in"
          value={by}
          options={BY}
          onChange={(next) =>
            change(next === "people" ? { people: 12, pieces: null } : { pieces: 60, people: null })
          }
        />
        {by === "pieces" ? (
          <NumberField
            label="How many pieces"
            value={asked.pieces ?? null}
            fault={fault("pieces")}
            onChange={(pieces) => change({ pieces: Math.round(pieces) })}
          />
        ) : (
          <>
            <NumberField
              label="How many people"
              value={asked.people ?? null}
              fault={fault("people") ?? fault("pieces")}
              onChange={(people) => change({ people: Math.round(people) })}
            />
            <Stepper
              label="pieces for each"
              value={Math.round(asked.each ?? 4)}
              range={[1, 20]}
              onChange={(each) => change({ each })}
            />
          </>
        )}
        <label className="flex flex-col">
          <span className="text-[0.9375rem] text-soft">Called</span>
          <input
            className="w-56 max-sm:w-full"
            maxLength={120}
            value={asked.name ?? ""}
            onChange={(event) => change({ name: event.target.value.trimStart() || null })}
          />
        </label>
      </div>
      <ul>
        {asked.kinds.map((kind, n) => (
          <KindRow
            // biome-ignore lint/suspicious/noArrayIndexKey: the same dough may come twice
            key={`${kind.dough_id} ${n}`}
            name={nameOf(kind.dough_id)}
            kind={kind}
            onKind={(part) => changeKind(n, part)}
            onRemove={() => change({ kinds: asked.kinds.filter((_, k) => k !== n) })}
          />
        ))}
      </ul>
      {fault("kinds") && <p className="text-caution">{fault("kinds")}</p>}
      <DoughSelect
        label="Add a kind to the occasion"
        empty="Add a kind…"
        value=""
        onChange={(id) => change({ kinds: [...asked.kinds, newKind(Number(id))] })}
        without={(dough) => asked.kinds.some((kind) => kind.dough_id === dough.id)}
      />
      <Hours
        free={asked.free ?? []}
        at={asked.at}
        now={now}
        fault={fault("free")}
        onFree={(free) => change({ free })}
      />
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="press press-main min-h-12 text-lg"
          disabled={asked.kinds.length === 0 || propose.isPending}
          onClick={() => propose.mutate(asked)}
        >
          Make the doughs and the plan
        </button>
        <span role="status">{propose.isPending && "Reckoning how much of each…"}</span>
      </div>
      <Notice problem={propose.error} />
      <KeptOccasions plan={plan} now={now} nameOf={nameOf} onOccasion={setAsked} />
    </div>
  );
}

interface KindRowProps {
  name: string;
  kind: OccasionKind;
  onKind: (part: Partial<OccasionKind>) => void;
  onRemove: () => void;
}

type SizedBy = "tray" | "wide" | "heavy" | "cards";
const SIZED = [
  ["tray", "as on its Tray"],
  ["wide", "baked so wide"],
  ["heavy", "so heavy"],
  ["cards", "as whole cards give"],
] as const;
const FIRST_WIDE_MM = 70;
const FIRST_G = 25;

/** One kind: its share or a count of its own, and its size where it is another than on its tray. */
function KindRow({ name, kind, onKind, onRemove }: KindRowProps) {
  const by: SizedBy = kind.whole_cards
    ? "cards"
    : kind.wide_mm != null
      ? "wide"
      : kind.each_g != null
        ? "heavy"
        : "tray";
  return (
    <li className="flex flex-wrap items-end gap-x-4 gap-y-1 border-b border-line py-1">
      <span className="min-w-40 flex-1 self-center text-lg font-semibold">{name}</span>
      <NumberField
        label="Pieces, or empty: its share"
        value={kind.pieces ?? null}
        onChange={(pieces) => onKind({ pieces: Math.round(pieces) })}
        onEmpty={() => onKind({ pieces: null })}
      />
      <label className="flex flex-col">
        <span className="text-[0.9375rem] text-soft">Each</span>
        <select
          aria-label={`Size of ${name}`}
          value={by}
          onChange={(event) => {
            const next = event.target.value as SizedBy;
            onKind({
              wide_mm: next === "wide" ? FIRST_WIDE_MM : null,
              each_g: next === "heavy" ? FIRST_G : null,
              whole_cards: next === "cards",
            });
          }}
        >
          {SIZED.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {by === "wide" && (
        <NumberField
          label="Baked width"
          measure="width"
          value={kind.wide_mm ?? null}
          onChange={(wide_mm) => onKind({ wide_mm })}
        />
      )}
      {by === "heavy" && (
        <NumberField
          label="Raw mass"
          measure="mass"
          value={kind.each_g ?? null}
          onChange={(each_g) => onKind({ each_g })}
        />
      )}
      <button
        type="button"
        className="icon-press"
        aria-label={`Take ${name} out of the occasion`}
        onClick={onRemove}
      >
        ✕
      </button>
    </li>
  );
}

interface HoursProps {
  free: FreeTime[];
  at: number;
  now: number;
  fault: string | undefined;
  onFree: (free: FreeTime[]) => void;
}

/** The hours in which the baker can bake. */
function Hours({ free, at, now, fault, onFree }: HoursProps) {
  const change = (place: number, part: Partial<FreeTime>) =>
    onFree(free.map((span, n) => (n === place ? { ...span, ...part } : span)));
  const before = (free[0]?.from_at ?? at) - 24 * 3_600_000;
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="font-bold">
        Hours to bake in{" "}
        <span className="text-[0.9375rem] font-normal text-soft">
          what keeps longest is baked in the first, what is best fresh in the last
        </span>
      </legend>
      {free.map((span, n) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: they are told apart by their place alone
          key={n}
          className="flex flex-wrap items-end gap-3"
        >
          <MomentField
            label="from"
            of="moment"
            value={span.from_at}
            now={now}
            onChange={(from_at) => from_at !== null && change(n, { from_at })}
          />
          <MomentField
            label="until"
            of="moment"
            value={span.to_at}
            now={now}
            onChange={(to_at) => to_at !== null && change(n, { to_at })}
          />
          <button
            type="button"
            className="icon-press"
            aria-label={`Do not bake from ${when(span.from_at, now)}`}
            onClick={() => onFree(free.filter((_, k) => k !== n))}
          >
            ✕
          </button>
        </div>
      ))}
      {fault && <p className="text-caution">{fault}</p>}
      {free.length < MOST_HOURS && before > now && (
        <button
          type="button"
          className="press w-fit"
          onClick={() => onFree([{ from_at: before, to_at: before + 4 * 3_600_000 }, ...free])}
        >
          Hours on another day before
        </button>
      )}
    </fieldset>
  );
}

/** How each kind came to be as large as it is, and on its day. */
function KindsTable({ kinds, now }: { kinds: Schemas["KindFigures"][]; now: number }) {
  return (
    <Scrolled label="Kind by kind">
      <table className="text-left">
        <thead className="text-[0.9375rem] text-soft max-sm:sr-only">
          <tr>
            {["kind", "baked", "the dough", "keeps", "in the hours from"].map((head) => (
              <th key={head} scope="col" className="pr-5 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind, n) => (
            <tr
              // biome-ignore lint/suspicious/noArrayIndexKey: the same dough may come twice
              key={n}
              className="border-t border-line align-baseline max-sm:flex max-sm:flex-wrap max-sm:items-baseline"
            >
              <th scope="row" className="py-1 pr-5 font-semibold">
                {kind.name}
              </th>
              <td className="py-1 pr-5">
                <strong>{kind.baked}</strong> for {kind.wanted}
                {kind.kept > 0 && <span className="text-soft">, {kind.kept} more kept raw</span>}
              </td>
              <td className="py-1 pr-5">
                {timesWords(kind.times)} × its card
                {kind.eggs != null && `, ${eggsWords(kind.eggs, kind.eggs_of)}`}
                {kind.bowls > 1 && `, in ${kind.bowls} bowls`}
              </td>
              <td className="py-1 pr-5">
                {keepsWords(kind.keeps_from_days, kind.keeps_to_days)}
                {kind.keeps_in === "fridge" && " in the fridge"}
              </td>
              <td className="py-1 whitespace-nowrap">{when(kind.from_at, now)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolled>
  );
}
