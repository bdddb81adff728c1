import { useState } from "react";
import { type BakingSession, type Dough, ProblemError } from "../../api/client";
import { ColourStrip } from "../../parts/ColourStrip";
import { Field } from "../../parts/Field";
import { Notice } from "../../parts/Notice";
import { parse } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { useColours, useRecord } from "./queries";

/** Minutes that a tray really took, between loading and taking out. */
function tookMinutes(session: BakingSession | null, tray: string | null): string {
  const done = (kind: string) =>
    session?.activities.find((a) => a.key === `${tray}.${kind}`)?.done_at ?? null;
  const [loaded, out] = [done("load"), done("out")];
  return loaded !== null && out !== null ? ((out - loaded) / 60_000).toFixed(1) : "";
}

const PIECES = [0, 1, 2, 3];
const blank = () => PIECES.map(() => "");

/** What came out: nothing is compulsory, but a width teaches most. */
export function RecordForm({ dough, session }: { dough: Dough; session: BakingSession | null }) {
  const record = useRecord();
  const colours = useColours();
  const [tray, setTray] = useState<string | null>(session?.trays[0]?.name ?? null);
  const [widths, setWidths] = useState(blank);
  const [minutes, setMinutes] = useState(() => tookMinutes(session, tray));
  const [colour, setColour] = useState<number | null>(null);
  const [note, setNote] = useState("");
  const problem = record.error instanceof ProblemError ? record.error : null;
  const filled = widths.map((text, n) => ({ text, n })).filter(({ text }) => text.trim() !== "");
  const broken = [...filled.map((w) => w.text), ...(minutes.trim() ? [minutes] : [])].some(
    (text) => !Number.isFinite(parse(text)),
  );

  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    if (broken) return;
    record.mutate(
      {
        dough_id: dough.id,
        session_id: session?.id ?? null,
        tray,
        widths_mm: filled.map((w) => parse(w.text)),
        minutes: minutes.trim() ? parse(minutes) : null,
        colour,
        note,
      },
      {
        onSuccess: () => {
          setWidths(blank());
          setColour(null);
          setNote("");
        },
      },
    );
  };

  const widthFault = (n: number): string | undefined => {
    const text = widths[n] ?? "";
    if (text.trim() && !Number.isFinite(parse(text))) return "Give a number.";
    const place = filled.findIndex((w) => w.n === n);
    return place < 0 ? undefined : problem?.at(`widths_mm.${place}`);
  };

  return (
    <form onSubmit={submit} aria-label="Record a bake" className="flex flex-col gap-4">
      <h2 className="heading">What came out</h2>
      {session && session.trays.length > 0 && (
        <Select
          label="Tray"
          value={tray ?? ""}
          options={session.trays.map((t) => [t.name, `${t.name}, ${t.pieces} pieces`] as const)}
          onChange={(name) => {
            setTray(name);
            setMinutes(tookMinutes(session, name));
          }}
        />
      )}
      <fieldset>
        <legend className="mb-1">How wide are they, across the middle, in millimetres?</legend>
        <div className="flex flex-wrap gap-2">
          {PIECES.map((n) => (
            <Field key={n} label={`piece ${n + 1}`} fault={widthFault(n)}>
              {(props) => (
                <input
                  {...props}
                  className="w-20 text-lg font-semibold"
                  inputMode="decimal"
                  autoComplete="off"
                  value={widths[n] ?? ""}
                  onChange={(event) =>
                    setWidths(widths.map((old, m) => (m === n ? event.target.value : old)))
                  }
                />
              )}
            </Field>
          ))}
        </div>
      </fieldset>
      <Field label="In the oven" unit="min" fault={problem?.at("minutes")}>
        {(props) => (
          <input
            {...props}
            className="w-20 text-lg font-semibold"
            inputMode="decimal"
            autoComplete="off"
            value={minutes}
            onChange={(event) => setMinutes(event.target.value)}
          />
        )}
      </Field>
      <ColourStrip words={colours.data ?? []} value={colour} onChange={setColour} />
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
    </form>
  );
}
