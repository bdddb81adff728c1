import type { UseQueryResult } from "@tanstack/react-query";
import type { BakingSession } from "../../api/client";
import type { components } from "../../api/schema";
import { length, when } from "../../logic/format";
import { plural } from "../../logic/planWords";
import { DayDrawing } from "../../parts/day/DayDrawing";
import { Notice } from "../../parts/Notice";

type Other = components["schemas"]["OtherPlanOut"];
type Calm = components["schemas"]["CalmOut"];

interface OtherPlanProps {
  plan: BakingSession;
  found: UseQueryResult<Other | null>;
  open: boolean;
  onOpen: (open: boolean) => void;
  onTake: (calm: boolean) => void;
}

/** The plan that there is beside the one shown, drawn below it, with what each costs. */
export function OtherPlan({ plan, found, open, onOpen, onTake }: OtherPlanProps) {
  const calm = plan.wish?.calm ?? false;
  const name = calm ? "the soonest plan" : "a calmer plan";
  const other = found.data;
  const pinned = (plan.wish?.pins.length ?? 0) + (plan.wish?.shelf_pins.length ?? 0) > 0;
  if (!plan.wish || pinned || plan.wish.first_c != null)
    return (
      <p className="border-t border-ink pt-3 text-soft print:hidden">
        With nothing pinned, a calmer plan is offered beside this one.
      </p>
    );
  return (
    <section aria-label={`Beside it: ${name}`} className="border-t border-ink pt-3 print:hidden">
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="press"
          aria-expanded={open}
          disabled={plan.searching && !open}
          onClick={() => onOpen(!open)}
        >
          {open ? "One plan alone" : `Beside it ${name}`}
        </button>
        {!open && !calm && (
          <span className="text-soft">
            settings of the oven grouped, dough after dough, pauses and meals free
          </span>
        )}
        {open && found.isFetching && <span role="status">Planning it…</span>}
        {open && other && (
          <>
            <strong>{priceOf(other, calm)}</strong>
            <button type="button" className="press press-main" onClick={() => onTake(!calm)}>
              Take {calm ? "the soonest" : "the calmer one"}
            </button>
          </>
        )}
      </div>
      {open && <Notice problem={found.error} />}
      {open && found.isSuccess && other === null && (
        <p className="mt-2">
          No plan was found that is calmer than this one and keeps every window.
        </p>
      )}
      {open && other && (
        <>
          <table className="mt-3 max-w-2xl text-left">
            <thead>
              <tr>
                <td />
                {COLUMNS.map(([, label]) => (
                  <th
                    key={label}
                    scope="col"
                    className="px-3 text-[0.9375rem] font-normal text-soft"
                  >
                    {label}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <Row name={calm ? "calmer, above" : "soonest, above"} calm={other.this} />
              <Row name={calm ? "soonest, below" : "calmer, below"} calm={other.other} />
            </tbody>
          </table>
          <h2 className="heading mt-4">
            {calm ? "The soonest" : "The calmer plan"}, ready{" "}
            {when(other.plan.finish_at, other.plan.now)}
          </h2>
          <DayDrawing session={other.plan} until={Math.max(plan.finish_at, other.plan.finish_at)} />
        </>
      )}
    </section>
  );
}

const COLUMNS = [
  ["minutes", "in all"],
  ["heat_changes", "oven set anew"],
  ["openings", "oven opened"],
  ["dough_changes", "from dough to dough"],
  ["pauses", "pauses of 10 min"],
] as const;

function Row({ name, calm }: { name: string; calm: Calm }) {
  return (
    <tr className="border-t border-line">
      <th scope="row" className="whitespace-nowrap py-1 pr-3 font-bold">
        {name}
      </th>
      {COLUMNS.map(([field]) => (
        <td key={field} className="whitespace-nowrap px-3">
          {field === "minutes"
            ? length(calm.minutes)
            : `${calm[field]} ${plural("time", calm[field])}`}
        </td>
      ))}
    </tr>
  );
}

/** What the other plan costs, or saves, and for what. */
function priceOf({ this: mine, other, plan }: Other, calm: boolean): string {
  const more = other.minutes - mine.minutes;
  const [longer, shorter] =
    plan.ready_by === null ? ["later", "sooner"] : ["sooner begun", "later begun"];
  const price = more === 0 ? "As soon" : `${length(Math.abs(more))} ${more > 0 ? longer : shorter}`;
  const gains = calm
    ? []
    : ([
        [mine.heat_changes - other.heat_changes, "turn of the dial fewer"],
        [mine.dough_changes - other.dough_changes, "change between doughs fewer"],
        [other.pauses - mine.pauses, "pause more"],
      ] as const);
  const told = gains.filter(([n]) => n > 0).map(([n, what]) => `${n} ${plural(what, n)}`);
  return told.length > 0 ? `${price}, with ${told.join(", ")}.` : `${price}.`;
}
