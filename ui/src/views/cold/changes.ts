import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";
import { binQuery, KEYS, showPlan, threwAway } from "../../logic/queries";
import { wholeDough } from "../../logic/wish";

export type ColdItem = Schemas["ColdOut"];
export type Place = ColdItem["place"];
type Change =
  | { do: "put"; put: Schemas["Put"] }
  | { do: "take"; id: number; pieces: number; why: string }
  | { do: "move"; id: number; place: Place }
  | { do: "correct"; id: number; pieces: number; note: string }
  | { do: "throw"; id: number };

const at = (id: number) => ({ params: { path: { item_id: id } } });

function send(change: Change) {
  switch (change.do) {
    case "put":
      return body(api.POST("/api/cold", { body: change.put }));
    case "take":
      return body(
        api.POST("/api/cold/{item_id}/take", {
          ...at(change.id),
          body: { pieces: change.pieces, why: change.why },
        }),
      );
    case "move":
      return body(
        api.POST("/api/cold/{item_id}/move", { ...at(change.id), body: { place: change.place } }),
      );
    case "correct":
      return body(
        api.PUT("/api/cold/{item_id}", {
          ...at(change.id),
          body: { pieces: change.pieces, note: change.note },
        }),
      );
    case "throw":
      return body(api.POST("/api/cold/{item_id}/throw-away", at(change.id)));
  }
}

export function useChangeStore() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: async (_, change) => {
      if (change.do === "throw")
        threwAway(queries, (await queries.fetchQuery({ ...binQuery, staleTime: 0 }))[0]);
      return queries.invalidateQueries({ queryKey: KEYS.cold });
    },
  });
}

/** Take dough out and let it join the session that is being planned. */
export function useBakeIt() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ item, pieces }: { item: ColdItem; pieces: number }) => {
      if (item.dough_id === null) throw new Error("Its dough was thrown away.");
      const [plan, kitchen] = await Promise.all([
        body(api.GET("/api/plan")),
        body(api.GET("/api/kitchen")),
      ]);
      const wish = plan?.wish ?? { items: [], away: [], pins: [], shelf_pins: [], calm: false };
      const others = wish.items.filter((i) => i.dough_id !== item.dough_id);
      const joins = item.place === "freezer" ? ("freezer" as const) : ("fridge" as const);
      const made = await body(
        api.PUT("/api/plan", {
          body: {
            ...wish,
            sheets: kitchen.sheets,
            shelves: kitchen.shelves,
            pins: [],
            shelf_pins: [],
            items: [...others, { ...wholeDough(item.dough_id), pieces, joins, form: item.form }],
          },
        }),
      );
      // Only once it is planned does it leave the cold.
      await send({ do: "take", id: item.id, pieces, why: "for a session" });
      return made;
    },
    onSuccess: async (plan) => {
      await showPlan(queries, plan);
      return queries.invalidateQueries({ queryKey: KEYS.cold });
    },
  });
}
