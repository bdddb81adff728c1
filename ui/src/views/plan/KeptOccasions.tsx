import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type BakingSession, body, type Schemas } from "../../api/client";
import { date } from "../../logic/format";
import { movedHours, nextTime, type Occasion } from "../../logic/occasion";
import { currentSessionQuery, KEYS, occasionsQuery, threwAway } from "../../logic/queries";
import { forget } from "../../logic/remembered";
import { Notice } from "../../parts/Notice";
import { NumberField } from "../../parts/NumberField";
import { useRemembered } from "../../parts/useRemembered";
import { KeepAs } from "./KeepAs";

type Kept = Schemas["ShownOccasion"];
type Outcome = Schemas["Outcome"];

interface KeptOccasionsProps {
  plan: BakingSession | null;
  now: number;
  nameOf: (doughId: number) => string;
  /** Fill the form with an occasion that comes again. */
  onOccasion: (occasion: Occasion) => void;
}

/** Occasions that come again: planned anew, with what was eaten and left. */
export function KeptOccasions({ plan, now, nameOf, onOccasion }: KeptOccasionsProps) {
  const kept = useQuery(occasionsQuery);
  // What is baked, or was last, can be kept as well: it is known by then whether it was good.
  const current = useQuery(currentSessionQuery);
  const session = plan ?? current.data;
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries({ queryKey: KEYS.occasions });
  const drop = useMutation({
    mutationFn: (occasion_id: number) =>
      body(api.DELETE("/api/occasions/{occasion_id}", { params: { path: { occasion_id } } })),
    onSuccess: (thrown) => {
      threwAway(queries, thrown);
      return onSuccess();
    },
  });
  const write = useMutation({
    mutationFn: ({ id, outcome }: { id: number; outcome: Outcome }) =>
      body(
        api.PUT("/api/occasions/{occasion_id}/outcome", {
          params: { path: { occasion_id: id } },
          body: outcome,
        }),
      ),
    onSuccess,
  });
  const again = (occasion: Occasion) => {
    const at = nextTime(occasion.at, now);
    onOccasion({ ...occasion, at, free: movedHours(occasion.free ?? [], occasion.at, at) });
  };
  return (
    <>
      {session && (
        <KeepAs
          key={session.id}
          session={session}
          of="occasion"
          keep={(asked) => body(api.POST("/api/occasions", { body: asked }))}
          onKept={onSuccess}
        />
      )}
      <Notice problem={drop.error ?? write.error ?? kept.error} />
      {(kept.data ?? []).length > 0 && (
        <section aria-label="Occasions that come again">
          <h3 className="font-bold">Occasions that come again</h3>
          <ul>
            {(kept.data ?? []).map((one) => (
              <KeptRow
                key={one.id}
                one={one}
                nameOf={nameOf}
                onAgain={again}
                onOutcome={(outcome) => write.mutate({ id: one.id, outcome })}
                onDrop={() => drop.mutate(one.id)}
              />
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

interface KeptRowProps {
  one: Kept;
  nameOf: (doughId: number) => string;
  onAgain: (occasion: Occasion) => void;
  onOutcome: (outcome: Outcome) => void;
  onDrop: () => void;
}

function KeptRow({ one, nameOf, onAgain, onOutcome, onDrop }: KeptRowProps) {
  const [writing, setWriting] = useRemembered(`outcome open ${one.id}`, false);
  const last = one.outcomes.at(-1);
  const eaten = last?.kinds.reduce((sum, kind) => sum + kind.baked - (kind.left ?? 0), 0);
  const left = last?.kinds.reduce((sum, kind) => sum + (kind.left ?? 0), 0);
  return (
    <li className="border-b border-line py-1.5">
      <span className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <strong className="text-lg">{one.name}</strong>
        <span className="mr-auto text-soft">
          {last
            ? `${date(last.at)}: ${eaten} eaten, ${left} left`
            : `last planned for ${date(one.occasion.at)}`}
        </span>
        <button type="button" className="press min-h-9" onClick={() => onAgain(one.occasion)}>
          Plan it again
        </button>
        {last && (
          <button type="button" className="press min-h-9" onClick={() => onAgain(one.as_eaten)}>
            Plan it as it was eaten
          </button>
        )}
        <button
          type="button"
          className="press min-h-9"
          aria-expanded={writing}
          onClick={() => setWriting(!writing)}
        >
          What was left?
        </button>
        <button
          type="button"
          className="icon-press"
          aria-label={`Keep ${one.name} no longer`}
          onClick={onDrop}
        >
          ✕
        </button>
      </span>
      {writing && (
        <OutcomeForm
          one={one}
          nameOf={nameOf}
          onOutcome={(outcome) => {
            onOutcome(outcome);
            setWriting(false);
          }}
        />
      )}
    </li>
  );
}

interface OutcomeFormProps {
  one: Kept;
  nameOf: (doughId: number) => string;
  onOutcome: (outcome: Outcome) => void;
}

/** Of each kind how many there were and how many were left. */
function OutcomeForm({ one, nameOf, onOutcome }: OutcomeFormProps) {
  const told = one.outcomes.find((outcome) => outcome.at === one.occasion.at);
  const share = Math.ceil((one.occasion.pieces ?? 0) / one.occasion.kinds.length);
  const [kinds, setKinds] = useRemembered(
    `outcome ${one.id}`,
    () =>
      told?.kinds ??
      one.occasion.kinds.map((kind) => ({
        dough_id: kind.dough_id,
        baked: kind.pieces ?? share,
        left: 0,
      })),
  );
  const change = (place: number, part: { baked?: number; left?: number }) =>
    setKinds(kinds.map((kind, n) => (n === place ? { ...kind, ...part } : kind)));
  return (
    <form
      className="mt-1 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        forget(`outcome ${one.id}`);
        onOutcome({ at: one.occasion.at, kinds });
      }}
    >
      {kinds.map((kind, n) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: the same dough may come twice
          key={`${kind.dough_id} ${n}`}
          className="flex flex-wrap items-end gap-3"
        >
          <legend className="float-left w-56 font-semibold">{nameOf(kind.dough_id)}</legend>
          <NumberField
            label="on the table"
            value={kind.baked}
            onChange={(baked) => change(n, { baked: Math.round(baked) })}
          />
          <NumberField
            label="left"
            value={kind.left ?? 0}
            onChange={(left) => change(n, { left: Math.round(left) })}
          />
        </fieldset>
      ))}
      <button type="submit" className="press w-fit">
        Write it down
      </button>
    </form>
  );
}
