import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Bake, Dough, Schemas } from "../../api/client";
import { date, fine, percent, signed, span, wider } from "../../logic/format";
import { diagnosisQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { type BookWords, useRemedy } from "./changes";

type Diagnosis = Schemas["Diagnosis"];
type Remedy = Schemas["Remedy"];

/** The change that is one of the kitchen's, not of the dough's. */
const ROOM = "room";

interface TroubleFinderProps {
  dough: Dough;
  bakes: Bake[];
  words: BookWords;
  trouble: string | null;
  bakeId: number | null;
  onTrouble: (trouble: string | null, bakeId: number | null) => void;
}

/** Why a bake went wrong, by what is recorded, and the one change to try. */
export function TroubleFinder({ dough, bakes, words, ...props }: TroubleFinderProps) {
  const { trouble, bakeId, onTrouble } = props;
  const found = useQuery(diagnosisQuery(dough.id, trouble, bakeId));
  const remedy = useRemedy(dough.id);
  const make = (key: string) => remedy.mutate(key);
  return (
    <section aria-label="Trouble finder" className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-4">
        <Select
          label="What went wrong"
          value={trouble ?? ""}
          options={[["", "choose…"] as const, ...Object.entries(words.troubles)]}
          onChange={(key) => onTrouble(key || null, bakeId)}
        />
        <Select
          label="In which bake"
          value={bakeId === null ? "" : String(bakeId)}
          options={[
            ["", "as it is set now"] as const,
            ...bakes.map(
              (b) => [String(b.id), `${date(b.baked_at)}${b.tray ? `, ${b.tray}` : ""}`] as const,
            ),
          ]}
          onChange={(id) => onTrouble(trouble, id ? Number(id) : null)}
        />
      </div>
      <Notice problem={found.error ?? remedy.error} />
      {remedy.isSuccess && (
        <p role="status">
          Made. See it on its{" "}
          <Link className="underline" to={`/tray/${dough.id}`}>
            tray
          </Link>{" "}
          or among the{" "}
          <Link className="underline" to={`/dough/${dough.id}`}>
            versions of the dough
          </Link>
          ; it can be had back there.
        </p>
      )}
      {!trouble && (
        <p className="text-lg text-soft">
          Choose what you saw. The causes are ranked by what is known of this dough, its tray and
          this oven.
        </p>
      )}
      {found.data && (
        <>
          {found.data.needed_mm !== null && (
            <Helps found={found.data} busy={remedy.isPending} onMake={make} />
          )}
          {!found.data.certain && (
            <p className="text-lg">
              <strong>Nothing recorded tells which it was.</strong> In order of how common they are:
            </p>
          )}
          <ol aria-label="Causes" className="flex flex-col">
            {found.data.causes.map((cause) => (
              <li
                key={cause.words}
                className={`grid gap-x-6 border-b border-line py-2.5 ${cause.remedy ? "lg:grid-cols-[minmax(0,1fr)_19rem]" : ""}`}
              >
                <div>
                  <p className="text-lg font-semibold">
                    {cause.words.charAt(0).toUpperCase() + cause.words.slice(1)}
                  </p>
                  <p className={cause.speaks_for ? "" : "text-soft"}>
                    {cause.speaks_for
                      ? "For it: "
                      : cause.known
                        ? "Against it, or not clear: "
                        : ""}
                    {cause.evidence}
                  </p>
                </div>
                {cause.remedy && (
                  <TryIt
                    remedy={cause.remedy}
                    now={found.data}
                    busy={remedy.isPending}
                    onMake={make}
                  />
                )}
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}

interface HelpsProps {
  found: Diagnosis;
  busy: boolean;
  onMake: (key: string) => void;
}

/** What is needed, and which changes do how much of it. */
function Helps({ found, busy, onMake }: HelpsProps) {
  return (
    <section aria-label="What would help" className="border-l-4 border-line py-1 pl-4">
      <p className="text-lg font-semibold">{found.needed}</p>
      {found.helps.length === 0 && (
        <p>No change that Fine Batch knows would do a tenth of that for this dough.</p>
      )}
      <ol>
        {found.helps.map(({ remedy, share }) => (
          <li
            key={remedy.key}
            className="grid grid-cols-1 items-center gap-x-6 gap-y-1 py-1.5 sm:grid-cols-[8rem_minmax(0,1fr)]"
          >
            <Share share={share} />
            <TryIt remedy={remedy} now={found} busy={busy} onMake={onMake} />
          </li>
        ))}
      </ol>
    </section>
  );
}

/** How much of what is needed a change does: a bar, and the words. */
function Share({ share }: { share: number }) {
  const part = Math.min(share, 1);
  return (
    <span className="flex flex-col gap-1">
      <span aria-hidden className="h-2 w-full bg-line">
        <span className="block h-2 bg-ink" style={{ width: `${100 * part}%` }} />
      </span>
      <span className="text-[0.9375rem]">
        {share >= 1 ? "all that is needed" : `${percent(100 * part)} % of it`}
      </span>
    </span>
  );
}

interface TryItProps {
  remedy: Remedy;
  now: Diagnosis;
  busy: boolean;
  onMake: (key: string) => void;
}

/** The one change to try, with what it would do. */
function TryIt({ remedy, now, busy, onMake }: TryItProps) {
  const more = remedy.width_mm - now.width_mm;
  const longer = remedy.minutes - now.minutes;
  return (
    <div className="flex items-start justify-between gap-3">
      <p>
        Try <strong>{remedy.label}</strong>:{" "}
        {remedy.key === ROOM
          ? `${fine(remedy.gap_mm)} for every dough, on the next trays`
          : Math.abs(more) < 0.05
            ? "as wide"
            : `${wider(more)}, ${span(remedy.width_mm)}`}
        {Math.abs(longer) >= 0.05 && `, ${signed(longer)}\u00a0min`}.
      </p>
      <button
        type="button"
        className="press min-h-9 shrink-0"
        disabled={busy}
        aria-label={`Make it so: ${remedy.label}`}
        onClick={() => onMake(remedy.key)}
      >
        Make it so
      </button>
    </div>
  );
}
