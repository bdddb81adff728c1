import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api, body, type Kitchen, ProblemError } from "../../api/client";
import { WHILE_AWAY } from "../../api/untilKept";
import { units } from "../../logic/kitchenUnits";
import { KEYS, kitchenQuery } from "../../logic/queries";
import { forget, forgetSame, remember, remembered } from "../../logic/remembered";
import { Notice } from "../../parts/Notice";
import { UnitsFields } from "../../parts/UnitsFields";
import { useTakeBack } from "../../parts/useTakeBack";
import { About } from "./About";
import { Bin } from "./Bin";
import { Copies } from "./Copies";
import { Habits } from "./Habits";
import { Hands } from "./Hands";
import { KitchenDrawing } from "./KitchenDrawing";
import { Ovens } from "./Ovens";
import { Room } from "./Room";
import { SheetsAndPans } from "./SheetsAndPans";
import type { KitchenPart, Planning } from "./setting";
import { Tools } from "./Tools";

/** All that there is to bake with: ovens, sheets, room, hands and habits. Each change is kept. */
export default function KitchenView() {
  const kitchen = useQuery(kitchenQuery);
  if (kitchen.error && !kitchen.data)
    return (
      <div className="p-6">
        <Notice problem={kitchen.error} />
      </div>
    );
  if (!kitchen.data) return <p className="p-6 text-soft">One moment…</p>;
  return <KitchenBench kitchen={kitchen.data} />;
}

function KitchenBench({ kitchen: known }: { kitchen: Kitchen }) {
  const queries = useQueryClient();
  // What was changed is shown at once, also while it is on its way; each change builds on the last.
  const [asked, setAsked] = useState<Kitchen | null>(null);
  const kitchen = asked ?? known;
  const latest = useRef(kitchen);
  if (asked === null) latest.current = known;
  const keep = useMutation({
    scope: { id: "kitchen" },
    ...WHILE_AWAY,
    mutationFn: (changed: Kitchen) => body(api.PUT("/api/kitchen", { body: changed })),
    // What cannot be goes back, and says why.
    onError: () => {
      forget("kitchen");
      setAsked(null);
    },
    onSuccess: async (answer, changed) => {
      await queries.cancelQueries({ queryKey: kitchenQuery.queryKey, exact: true });
      queries.setQueryData(kitchenQuery.queryKey, answer);
      forgetSame("kitchen", changed);
      setAsked((now) => (now === changed ? null : now));
      queries.invalidateQueries({ queryKey: KEYS.plan });
      queries.invalidateQueries({ queryKey: KEYS.known });
    },
  });
  const taking = useTakeBack<Kitchen>((before) => put(before));
  const set = (change: Partial<Kitchen>) => {
    taking.note(latest.current);
    put({ ...latest.current, ...change });
  };
  const put = (changed: Kitchen) => {
    latest.current = changed;
    remember<Kitchen | null>("kitchen", changed, null);
    setAsked(changed);
    keep.mutate(changed);
  };
  // What could not be kept before the page was left is kept now.
  const unsent = useRef(remembered<Kitchen | null>("kitchen", null));
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the screen opens
  useEffect(() => {
    if (unsent.current) put(unsent.current);
    unsent.current = null;
  }, []);
  const part: KitchenPart = {
    kitchen,
    set,
    plan: (change: Partial<Planning>) =>
      set({ planning: { ...latest.current.planning, ...change } as Planning }),
    fault: (field) => (keep.error instanceof ProblemError ? keep.error.at(field) : undefined),
  };
  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-10 gap-y-6 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <div className="flex flex-col gap-5">
        <div className="flex items-center justify-between gap-4">
          <h1 className="text-2xl font-bold">Kitchen</h1>
          <Link to="/network" className="press ml-auto min-h-9">
            Let a tablet in
          </Link>
          {taking.press}
        </div>
        <KitchenDrawing kitchen={kitchen} />
        <Ovens {...part} />
        <SheetsAndPans {...part} />
        <Tools {...part} />
      </div>
      <div className="flex flex-col gap-5">
        <Hands {...part} />
        <Habits {...part} />
        <section aria-label="Units" className="flex flex-col gap-2">
          <h2 className="heading">Units, clock and dates</h2>
          <UnitsFields units={kitchen.units ?? units()} onUnits={(units) => set({ units })} />
        </section>
        <Room {...part} />
        <Notice problem={keep.error ?? keep.failureReason} />
        <p role="status" className="text-soft">
          {keep.isPending ? "Keeping…" : keep.isSuccess ? "Kept." : ""}
        </p>
        <Copies />
        <Bin />
        <About />
      </div>
    </div>
  );
}
