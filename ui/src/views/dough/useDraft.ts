import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { api, body, type Dough, ProblemError } from "../../api/client";
import { untilKept } from "../../api/untilKept";
import { askAgain } from "../../logic/askAgain";
import {
  type Card,
  type CardBody,
  type Draft,
  draftOf,
  plainCard,
  reduce,
} from "../../logic/draft";
import { doughQuery, KEYS, versionsQuery } from "../../logic/queries";
import { forget, forgetSame, remember, remembered } from "../../logic/remembered";

const PAUSE_MS = 350;
const CONFLICT = 409;

/** A card that is on its way to be kept, and what of the dough it was written over. */
interface Unsent {
  card: CardBody;
  revision: number;
}

const unsentOf = (card: Card, revision: number): Unsent => ({ card: plainCard(card), revision });

/** A dough being edited: every change is kept by itself, shortly after it is made. */
export function useDraft(dough: Dough) {
  const typed = `card of ${dough.id}`;
  const [draft, change] = useReducer(reduce, dough, draftOf);
  const [problem, setProblem] = useState<Error | null>(null);
  const [kept, setKept] = useState<Card>(draft.card);
  const [underWay, setUnderWay] = useState(0);
  const revision = useRef(dough.revision);
  const saving = useRef<Promise<void> | null>(null);
  const latest = useRef(draft);
  latest.current = draft;
  const queries = useQueryClient();

  const theirs = useCallback(
    () => body(api.GET("/api/doughs/{dough_id}", { params: { path: { dough_id: dough.id } } })),
    [dough.id],
  );

  const keep = useCallback(
    async ({ card, reason }: Pick<Draft, "card" | "reason">) => {
      setUnderWay((saves) => saves + 1);
      await saving.current;
      const before = revision.current;
      remember<Unsent | null>(typed, unsentOf(card, before), null);
      const put = () =>
        body(
          api.PUT("/api/doughs/{dough_id}", {
            params: { path: { dough_id: dough.id } },
            body: { ...plainCard(card), revision: revision.current, reason },
          }),
        );
      const save = untilKept(put, setProblem, theirs).then(
        (after) => {
          revision.current = after.revision;
          forgetSame(typed, unsentOf(card, before));
          setKept(card);
          setProblem(null);
          queries.setQueryData(doughQuery(dough.id).queryKey, after);
          queries.invalidateQueries({ queryKey: KEYS.doughs });
          queries.invalidateQueries({ queryKey: versionsQuery(dough.id).queryKey });
          void askAgain(queries, [...KEYS.foreseen, dough.id]);
        },
        (error: Error) => setProblem(error),
      );
      saving.current = save;
      await save;
      setUnderWay((saves) => saves - 1);
    },
    [dough.id, typed, queries, theirs],
  );

  // What could not be kept before the page was left is kept now; one that another window has gone
  // beyond meanwhile is a conflict as any other.
  const unsent = useRef(remembered<Unsent | null>(typed, null));
  useEffect(() => {
    const left = unsent.current;
    unsent.current = null;
    if (!left || JSON.stringify(left.card) === JSON.stringify(plainCard(draftOf(dough).card)))
      return forget(typed);
    revision.current = Math.min(left.revision, revision.current);
    change({ do: "replace", card: left.card, reason: "" });
  }, [typed, dough]);

  useEffect(() => {
    if (draft.card === kept || draft.card.name.trim() === "") return;
    const timer = setTimeout(() => keep(draft), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [draft, kept, keep]);

  // Leaving the screen does not wait for the pause.
  const keptNow = useRef(kept);
  keptNow.current = kept;
  useEffect(
    () => () => {
      if (latest.current.card !== keptNow.current && latest.current.card.name.trim())
        void keep(latest.current);
    },
    [keep],
  );

  /** Keep what is on this screen as a version over the other window's; that one stays in the list. */
  const keepMine = async () => {
    revision.current = (await theirs()).revision;
    await keep({ card: draft.card, reason: "Kept over a change made in another window" });
  };

  /** Load what the other window kept; what was typed here can be had back with one step. */
  const takeTheirs = async () => {
    const other = await theirs();
    revision.current = other.revision;
    setProblem(null);
    change({ do: "replace", card: other.card, reason: "" });
  };

  const conflict = problem instanceof ProblemError && problem.status === CONFLICT;
  // While another save is under way it may yet put an older card over this one.
  const saved = draft.card === kept && underWay === 0;
  return { draft, change, problem, saved, conflict, keepMine, takeTheirs };
}

export type Editing = ReturnType<typeof useDraft>;
