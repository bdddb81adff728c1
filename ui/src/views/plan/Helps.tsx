import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type BakingSession, body, type Kitchen, type Schemas } from "../../api/client";
import { dial } from "../../logic/format";
import { ideasQuery, kitchenQuery, triedQuery } from "../../logic/queries";
import type { Wish } from "../../logic/wish";

type Idea = Schemas["IdeaOut"];

interface HelpsProps {
  plan: BakingSession;
  wish: Wish;
  kitchen: Kitchen;
  onWish: (wish: Wish) => void;
}

/** What would help: each really planned again, with the minutes saved; one press takes it. */
export function Helps({ plan, wish, kitchen, onWish }: HelpsProps) {
  const [open, setOpen] = useState(false);
  const ideas = useQuery(ideasQuery(plan));
  const queries = useQueryClient();
  const help = useMutation({
    mutationFn: () =>
      body(
        api.PUT("/api/kitchen", {
          body: {
            ...kitchen,
            planning: {
              ...kitchen.planning,
              helpers: [
                ...kitchen.planning.helpers,
                { name: `helper ${kitchen.planning.helpers.length + 1}`, child: false, tasks: [] },
              ],
            },
          },
        }),
      ),
    onSuccess: (kept) => {
      queries.setQueryData(kitchenQuery.queryKey, kept);
      onWish(wish);
    },
  });
  const take = (idea: Idea) => {
    if (idea.what === "sheet") onWish({ ...wish, sheets: wish.sheets + 1 });
    if (idea.what === "shelf") onWish({ ...wish, shelves: wish.shelves + 1 });
    if (idea.what === "order") onWish({ ...wish, first_c: idea.first_c });
    if (idea.what === "helper") help.mutate();
    if (idea.what === "evening") {
      const place = plan.doughs.findIndex((d) => d.letter === idea.letter);
      const items = wish.items.map((item, n) =>
        n === place ? { ...item, joins: "fridge" as const } : item,
      );
      onWish({ ...wish, items });
    }
  };
  return (
    <section aria-label="What would help">
      <h2 className="heading">
        What would help <span className="text-[0.9375rem] font-normal text-soft">minutes</span>
      </h2>
      {!open && (
        <button
          type="button"
          className="press mt-2"
          disabled={plan.searching}
          onClick={() => setOpen(true)}
        >
          Plan it again each way
        </button>
      )}
      {open && (
        <ul className="mt-1">
          {(ideas.data ?? []).map((idea) => (
            <Tried key={idea.number} plan={plan} idea={idea} onTake={() => take(idea)} />
          ))}
        </ul>
      )}
      {wish.first_c != null && (
        <button
          type="button"
          className="press mt-2 min-h-8 px-2"
          onClick={() => onWish({ ...wish, first_c: null })}
        >
          Any order of heats, not {dial(wish.first_c)} first
        </button>
      )}
    </section>
  );
}

const words = (idea: Idea, plan: BakingSession): string => {
  const dough = plan.doughs.find((d) => d.letter === idea.letter)?.name;
  switch (idea.what) {
    case "sheet":
      return "one more sheet";
    case "shelf":
      return "one more shelf in the oven";
    case "helper":
      return "a helper";
    case "evening":
      return `${dough ?? "a dough"} mixed the evening before`;
    case "order":
      return `${dial(idea.first_c ?? 0)} first`;
  }
};

function Tried({ plan, idea, onTake }: { plan: BakingSession; idea: Idea; onTake: () => void }) {
  const tried = useQuery(triedQuery(plan, idea.number, !plan.searching));
  const saves = tried.data?.saves_min;
  return (
    <li className="flex items-center justify-between gap-2 border-b border-line py-1.5">
      <span className="leading-tight">{words(idea, plan)}</span>
      {saves == null ? (
        <span className="flex-none text-soft">
          {tried.isPending && !tried.error ? "planning…" : "not known"}
        </span>
      ) : saves > 0 ? (
        <button type="button" className="press min-h-8 flex-none px-2" onClick={onTake}>
          <strong>−{saves}</strong> Take it
        </button>
      ) : (
        <span className="flex-none text-soft">{saves < 0 ? `${-saves} later` : "no sooner"}</span>
      )}
    </li>
  );
}
