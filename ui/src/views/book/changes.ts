import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Bake, body, ProblemError, type Schemas } from "../../api/client";
import { pressed } from "../../api/press";
import { doughQuery, KEYS, RESTS_ON_BOOK, threwAway } from "../../logic/queries";

export type Seen = Schemas["Seen"];
export type BookWords = Schemas["BookWordsOut"];

/** Whatever changes the book changes what is foreseen, everywhere. */
export function useForget() {
  const queries = useQueryClient();
  return () =>
    Promise.all(RESTS_ON_BOOK.map((queryKey) => queries.invalidateQueries({ queryKey })));
}

export function useRecord() {
  const forget = useForget();
  return useMutation({
    mutationFn: async ({ record, photo }: { record: Schemas["Record"]; photo: File | null }) => {
      const bake = await body(api.POST("/api/bakes", { body: record }));
      if (!photo) return { bake, photoFault: null };
      // The bake is kept also when its photo cannot be.
      const photoFault = await putPhoto(bake.id, photo).then(
        () => null,
        (fault: Error) => fault.message,
      );
      return { bake, photoFault };
    },
    onSuccess: forget,
  });
}

async function putPhoto(bakeId: number, photo: File): Promise<void> {
  let answer: Response;
  try {
    const path = `/api/bakes/${bakeId}/photo`;
    answer = await pressed(new Request(path, { method: "PUT", body: photo }));
  } catch {
    throw new ProblemError("The photo did not arrive. Choose it again at its bake.", 0, []);
  }
  if (answer.ok) return;
  const problem: Partial<Schemas["Problem"]> = await answer.json().catch(() => ({}));
  throw new ProblemError(problem.detail ?? "The photo was not taken.", answer.status, []);
}

export function usePhoto() {
  const forget = useForget();
  return useMutation({
    mutationFn: ({ bakeId, photo }: { bakeId: number; photo: File }) => putPhoto(bakeId, photo),
    onSuccess: forget,
  });
}

export function useTakeOut() {
  const forget = useForget();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      body(api.DELETE("/api/bakes/{bake_id}", { params: { path: { bake_id: id } } })),
    onSuccess: (thrown) => {
      threwAway(queries, thrown);
      return forget();
    },
  });
}

export function useCounts() {
  const forget = useForget();
  return useMutation({
    mutationFn: ({ id, counts }: { id: number; counts: Bake["counts"] }) =>
      body(
        api.PUT("/api/bakes/{bake_id}/counts", {
          params: { path: { bake_id: id } },
          body: { counts },
        }),
      ),
    onSuccess: forget,
  });
}

/** Let the kitchen know of an oven what its map says. */
export function useTakeMap() {
  const forget = useForget();
  return useMutation({
    mutationFn: (oven: number) =>
      body(api.POST("/api/oven-maps/{oven}/take", { params: { path: { oven } } })),
    onSuccess: forget,
  });
}

export function useLearning() {
  const forget = useForget();
  return useMutation({
    mutationFn: (learns: boolean) => body(api.PUT("/api/lessons", { body: { learns } })),
    onSuccess: forget,
  });
}

/** Make the one change: a new version of the dough, or its tray's setting. */
export function useRemedy(doughId: number) {
  const forget = useForget();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (key: string) => {
      const path = { path: { dough_id: doughId } };
      const dough = await body(api.GET("/api/doughs/{dough_id}", { params: path }));
      return body(
        api.POST("/api/doughs/{dough_id}/keep-tried", {
          params: path,
          body: { ...dough.tray, tried: [key] },
        }),
      );
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: KEYS.doughs });
      await queries.invalidateQueries({ queryKey: doughQuery(doughId).queryKey });
      await forget();
    },
  });
}

export function useBringBook() {
  const forget = useForget();
  return useMutation({
    mutationFn: (text: string) => body(api.POST("/api/book/bring-in", { body: { text } })),
    onSuccess: forget,
  });
}
