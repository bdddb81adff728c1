import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import type { BakingSession } from "../../api/client";
import { when } from "../../logic/format";
import { planQuery, shelfQuery } from "../../logic/queries";
import { PrintPage } from "../../parts/PrintPage";
import { ToBuy, WeighOut } from "./ToWeigh";

/** One page: what to buy, and what to weigh for which dough. */
export default function PrintLists() {
  const id = Number(useParams().sessionId);
  const plan = useQuery(planQuery);
  const gone =
    plan.data !== undefined && plan.data?.id !== id
      ? new Error("This session is not planned any more. Open Plan.")
      : null;
  return (
    <PrintPage problem={plan.error ?? gone} back="Back to the plan" to="/plan">
      {plan.data && <Lists plan={plan.data} />}
    </PrintPage>
  );
}

/** What to buy and to weigh, as one of several pages or alone. */
export function Lists({ plan }: { plan: BakingSession }) {
  const shelf = useQuery(shelfQuery(plan));
  if (!shelf.data) return <p className="text-soft">One moment…</p>;
  return (
    <article className="flex flex-col gap-5">
      <h1 className="text-2xl font-bold">
        {plan.name}, begun {when(plan.start_at, plan.now)}
      </h1>
      <ToBuy needed={shelf.data.needed} />
      <WeighOut plan={plan} needed={shelf.data.needed} />
    </article>
  );
}
