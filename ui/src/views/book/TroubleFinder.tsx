import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Bake, Dough, Schemas } from "../../api/client";
import { date, signed, span, wider } from "../../logic/format";
import { diagnosisQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { Select } from "../../parts/Select";
import { type BookWords, useRemedy } from "./changes";

type Diagnosis = Schemas["Diagnosis"];
type Remedy = NonNullable<Diagnosis["causes"][number]["remedy"]>;

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
          {!found.data.certain && (
            <p className="text-lg">
              <strong>Nothing recorded tells which it was.</strong> In order of how common they are:
            </p>
          )}
          <ol className="flex flex-col">
            {found.data.causes.map((cause) => (
              <li
                key={cause.words}
                className="grid gap-x-6 border-b border-line py-2.5 lg:grid-cols-[minmax(0,1fr)_19rem]"
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
        {Math.abs(more) < 0.05 ? "as wide" : `${wider(more)}, ${span(remedy.width_mm)}`}
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
