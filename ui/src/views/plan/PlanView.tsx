import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";
import {
  type BakingSession,
  type Dough,
  type Kitchen,
  ProblemError,
  type Schemas,
} from "../../api/client";
import { Notice } from "../../parts/Notice";
import { useDough } from "../dough/queries";
import { useKitchen } from "../tray/queries";
import { DayDrawing } from "./DayDrawing";
import { PlanFigures } from "./PlanFigures";
import { useMakePlan, usePlan, useStart } from "./queries";
import { RunSheet } from "./RunSheet";
import { WishRow } from "./WishRow";

type Wish = Schemas["WishBody"];

export default function PlanView({ doughId }: { doughId: number }) {
  const plan = usePlan(doughId);
  const kitchen = useKitchen();
  const dough = useDough(doughId);
  const problem = dough.error ?? plan.error ?? kitchen.error;
  if (problem) {
    return (
      <div className="p-6">
        <Notice problem={problem} />
      </div>
    );
  }
  if (plan.data === undefined || !kitchen.data || !dough.data)
    return <p className="p-6 text-soft">One moment…</p>;
  return <PlanBench dough={dough.data} plan={plan.data} kitchen={kitchen.data} />;
}

interface PlanBenchProps {
  dough: Dough;
  plan: BakingSession | null;
  kitchen: Kitchen;
}

function PlanBench({ dough, plan, kitchen }: PlanBenchProps) {
  const make = useMakePlan(dough.id);
  const start = useStart();
  const navigate = useNavigate();
  const wish: Wish = {
    sheets: plan?.sheets ?? kitchen.sheets,
    shelves: plan?.shelves ?? kitchen.shelves,
    ready_by: plan?.ready_by ?? null,
  };

  // A dough that was never planned, or was changed since, is planned at once.
  const asked = useRef(false);
  const outdated = plan === null || plan.stale;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the screen opens
  useEffect(() => {
    if (outdated && !asked.current) {
      asked.current = true;
      make.mutate(wish);
    }
  }, []);

  const fault = (field: string) =>
    make.error instanceof ProblemError ? make.error.at(field) : undefined;

  return (
    <div className="grid flex-1 content-start gap-x-8 gap-y-4 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_17rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <h1 className="text-2xl leading-tight font-bold">{dough.card.name}</h1>
        <WishRow
          wish={wish}
          startAt={plan?.start_at ?? Date.now()}
          fault={fault}
          busy={make.isPending}
          onWish={(changed) => make.mutate(changed)}
        />
        <Notice problem={make.error ?? start.error} />
        {plan && <DayDrawing session={plan} />}
        {plan && <RunSheet session={plan} />}
      </div>
      {plan && (
        <PlanFigures
          plan={plan}
          busy={make.isPending}
          onStart={() => start.mutate(plan.id, { onSuccess: () => navigate("/bake") })}
        />
      )}
    </div>
  );
}
