import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { type BakingSession, type Dough, ProblemError } from "../../api/client";
import { fine, fineWords } from "../../logic/format";
import { scaleOf, typedIn } from "../../logic/measures";
import { parse } from "../../logic/numbers";
import { mean } from "../../logic/photo";
import { kindOf, kindsQuery, type PhotoOf } from "../../logic/queries";
import { forget } from "../../logic/remembered";
import { ColourStrip } from "../../parts/ColourStrip";
import { DropFile } from "../../parts/DropFile";
import { Field } from "../../parts/Field";
import { Measure } from "../../parts/Measure";
import { Notice } from "../../parts/Notice";
import { PhotoPresses } from "../../parts/photo/PhotoPresses";
import { Select } from "../../parts/Select";
import { useRemembered } from "../../parts/useRemembered";
import { type BookWords, type Seen, useRecord } from "./changes";
import type { ByPhoto } from "./photo/TrayByPhoto";
import { SeenFields, WentWrong } from "./SeenFields";

/** What is known of a tray from the bake: minutes in the oven, and what its thermometer said. */
function fromBake(session: BakingSession | null, name: string | null) {
  const tray = session?.trays.find((t) => t.name === name);
  return {
    minutes: tray?.took_min == null ? "" : tray.took_min.toFixed(1),
    ovenC: tray?.oven_c == null ? "" : scaleOf("temperature").words(tray.oven_c),
  };
}

const UNSEEN: Seen = { heights_mm: [], texture: [], tastes: [], troubles: [] };
/** The trouble that pieces are that touch. */
const RAN_TOGETHER = "ran_together";
const PIECES = [0, 1, 2, 3];
const HEIGHTS = [0, 1];
const blank = (places: number[]) => places.map(() => "");

interface RecordFormProps {
  dough: Dough;
  session: BakingSession | null;
  words: BookWords;
  /** The photo that goes with it, and what was taken of it. */
  photo: File | null;
  taken: ByPhoto | null;
  onPhoto: (photo: File | null, of: PhotoOf | null) => void;
  onByHand: () => void;
  onTrouble: (trouble: string, bakeId: number) => void;
}

/** What came out: nothing is compulsory, but a width teaches most. */
export function RecordForm(props: RecordFormProps) {
  const { dough, session, words, photo, taken, onPhoto, onByHand, onTrouble } = props;
  const record = useRecord();
  const kinds = useQuery(kindsQuery);
  const says = kindOf(kinds.data, dough.tray.piece.kind)?.says;
  const typed = `record ${dough.id} ${session?.id ?? ""} `;
  const [tray, setTray] = useRemembered<string | null>(
    `${typed}tray`,
    session?.trays[0]?.name ?? null,
  );
  const [widths, setWidths] = useRemembered(`${typed}widths`, () => blank(PIECES));
  const [heights, setHeights] = useRemembered(`${typed}heights`, () => blank(HEIGHTS));
  const [minutes, setMinutes] = useRemembered(
    `${typed}minutes`,
    () => fromBake(session, tray).minutes,
  );
  const [ovenC, setOvenC] = useRemembered(`${typed}oven`, () => fromBake(session, tray).ovenC);
  const [colour, setColour] = useRemembered<number | null>(`${typed}colour`, null);
  const [note, setNote] = useRemembered(`${typed}note`, "");
  const [seen, setSeen] = useRemembered<Seen>(`${typed}seen`, UNSEEN);
  const [fields, setFields] = useState(0);
  const problem = record.error instanceof ProblemError ? record.error : null;
  const filled = (texts: string[]) =>
    texts.map((text, n) => ({ text, n })).filter(({ text }) => text.trim() !== "");
  const broken =
    [...widths, ...heights].some(
      (text) => text.trim() && !Number.isFinite(typedIn("length", text)),
    ) ||
    (minutes.trim() !== "" && !Number.isFinite(parse(minutes))) ||
    (ovenC.trim() !== "" && !Number.isFinite(typedIn("temperature", ovenC)));
  const numbers = (texts: string[]) => filled(texts).map((w) => typedIn("length", w.text));
  const single = (text: string) => (text.trim() ? parse(text) : null);

  const atTaken = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (taken) atTaken.current?.focus();
  }, [taken]);
  const shade = colour ?? taken?.colour ?? null;
  const touching = taken?.together.map((pair) => `${pair.join(" and ")} touch.`).join(" ") ?? "";
  const troubles = seen.troubles ?? [];
  const look = (part: Partial<Seen>) => setSeen((old) => ({ ...old, ...part }));

  const choose = (chosen: File) =>
    onPhoto(
      chosen,
      says?.by_photo ? { doughId: dough.id, sessionId: session?.id ?? null, tray } : null,
    );

  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    if (broken) return;
    record.mutate(
      {
        record: {
          dough_id: dough.id,
          session_id: session?.id ?? null,
          tray,
          widths_mm: taken ? taken.pictured.pieces.map((one) => one.width_mm) : numbers(widths),
          minutes: single(minutes),
          colour: shade,
          note: [touching, note].filter((text) => text !== "").join(" "),
          seen: {
            ...seen,
            troubles: touching ? [...new Set([...troubles, RAN_TOGETHER])] : troubles,
            pictured: taken?.pictured ?? null,
            heights_mm: numbers(heights),
            oven_c: ovenC.trim() ? typedIn("temperature", ovenC) : null,
          },
        },
        photo,
      },
      {
        onSuccess: ({ bake }) => {
          setWidths(blank(PIECES));
          setHeights(blank(HEIGHTS));
          setColour(null);
          setNote("");
          setSeen(UNSEEN);
          onPhoto(null, null);
          for (const field of ["minutes", "oven", "tray"]) forget(`${typed}${field}`);
          setFields(fields + 1);
          const first = bake.seen.troubles?.[0];
          if (first) onTrouble(first, bake.id);
        },
      },
    );
  };

  const fault = (texts: string[], n: number, field: string): string | undefined => {
    const text = texts[n] ?? "";
    if (text.trim() && !Number.isFinite(typedIn("length", text))) return "Give a number.";
    const place = filled(texts).findIndex((w) => w.n === n);
    return place < 0 ? undefined : problem?.at(`${field}.${place}`);
  };

  const byPhoto = taken && (
    <div ref={atTaken} tabIndex={-1} className="border-l-4 border-yolk bg-wash p-3">
      <p className="text-lg">
        <strong>{taken.pictured.pieces.length} pieces</strong> by the photo,{" "}
        {fine(mean(taken.pictured.pieces.map((one) => one.width_mm)), 1)} wide in the mean.
      </p>
      {touching && <p>{touching}</p>}
      <button type="button" className="underline" onClick={onByHand}>
        Look at the photo again
      </button>
    </div>
  );

  // What bakes whole is measured by its height first: its pieces are as wide as they are cut.
  const across = (
    <fieldset>
      <legend className="mb-1">
        {says?.measured}, in {fineWords()}?
      </legend>
      <div className="flex flex-wrap gap-2">
        {PIECES.map((n) => (
          <Measure
            key={n}
            label={`piece ${n + 1}`}
            fault={fault(widths, n, "widths_mm")}
            value={widths[n] ?? ""}
            onChange={(text) => setWidths(widths.map((old, m) => (m === n ? text : old)))}
          />
        ))}
      </div>
    </fieldset>
  );

  return (
    <form onSubmit={submit} aria-label="Record a bake" className="flex flex-col gap-3">
      <h2 className="heading">What came out</h2>
      {session && session.trays.length > 0 && (
        <Select
          label="Tray"
          value={tray ?? ""}
          options={session.trays.map((t) => [t.name, `${t.name}, ${t.pieces} pieces`] as const)}
          onChange={(name) => {
            setTray(name);
            const known = fromBake(session, name);
            setMinutes(known.minutes);
            setOvenC(known.ovenC);
          }}
        />
      )}
      {byPhoto}
      {says?.across !== "" && !taken && across}
      <div className="flex flex-wrap gap-2">
        {HEIGHTS.map((n) => (
          <Measure
            key={n}
            label={n === 0 ? `high, in ${fineWords()}` : "another"}
            fault={fault(heights, n, "seen.heights_mm")}
            value={heights[n] ?? ""}
            onChange={(text) => setHeights(heights.map((old, m) => (m === n ? text : old)))}
          />
        ))}
        <Measure
          label="In the oven"
          unit="min"
          fault={problem?.at("minutes")}
          value={minutes}
          onChange={setMinutes}
        />
        <Measure
          label="by a thermometer"
          unit={scaleOf("temperature").unit}
          fault={problem?.at("seen.oven_c")}
          value={ovenC}
          onChange={setOvenC}
        />
      </div>
      {says?.across === "" && across}
      <ColourStrip words={words.colours} value={shade} onChange={setColour} />
      <WentWrong words={words} seen={seen} onSeen={look} />
      <details className="border-y border-line py-2">
        <summary className="cursor-pointer font-semibold">Touch and taste</summary>
        <div className="pt-2">
          <SeenFields key={fields} words={words} seen={seen} onSeen={look} />
        </div>
      </details>
      <div className="flex flex-wrap items-center gap-3">
        <PhotoPresses onPhoto={choose} />
        <DropFile
          says={
            says?.by_photo ? "Drop the photo: it measures the tray" : "Drop the photo of the bake"
          }
          onFile={choose}
        />
        <p role="status" className="min-w-0 wrap-anywhere">
          {photo ? (
            <>
              <strong>{photo.name}</strong> goes with it.
            </>
          ) : (
            <span className="text-soft">
              {says?.by_photo && "It measures the pieces, from straight above best. "}
              <span className="pointer-coarse:hidden">Or drop one here. </span>
              JPEG or PNG, at most 15 MB.
            </span>
          )}
        </p>
        {photo && (
          <button type="button" className="underline" onClick={() => onPhoto(null, null)}>
            without it
          </button>
        )}
      </div>
      <Field label="Note">
        {(props) => (
          <textarea
            {...props}
            rows={2}
            maxLength={2000}
            className="w-full"
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        )}
      </Field>
      <Notice problem={record.error} />
      <div className="flex items-center gap-4">
        <button
          type="submit"
          className="press press-main text-lg"
          disabled={record.isPending || broken}
        >
          Write it down
        </button>
        <p role="status">{record.isSuccess ? "Written down." : ""}</p>
      </div>
      {record.data?.photoFault && (
        <p role="alert" className="text-caution">
          The bake is written down; its photo is not: {record.data.photoFault}
        </p>
      )}
    </form>
  );
}
