import type { BakingSession } from "../api/client";

/** One line of what is left once a session is baked. */
export interface ToDo {
  /** Of what is done here, the job; else a name of its own. */
  key: string;
  says: string;
  done: boolean;
  /** Where it is done; nothing for what is done with the hands alone. */
  to: string | null;
  /** Where the label of what was put away is printed. */
  label: string | null;
}

const SHAPED: Readonly<Record<string, string>> = {
  log: "as a log",
  disc: "as a disc",
  portions: "in portions",
};

/** What is left to do, in the order in which it is done. */
export function toDo(session: Pick<BakingSession, "id" | "closing" | "doughs">): ToDo[] {
  return session.closing.flatMap((one): ToDo[] => {
    const dough = session.doughs.find((each) => each.letter === one.dough);
    if (one.kind === "clear") {
      return [{ key: "all.clear", says: "Clear up", done: one.done, to: null, label: null }];
    }
    if (!dough || dough.dough_id === null) return [];
    if (one.kind === "write") {
      return [
        {
          key: `write ${dough.letter}`,
          says: `Write down what came out of ${dough.name}`,
          done: one.done,
          to: `/book/${dough.dough_id}?session=${session.id}`,
          label: null,
        },
      ];
    }
    const shape = SHAPED[dough.keep_as] ?? "as a lump";
    return [
      {
        key: `put away ${dough.letter}`,
        says: one.done
          ? `${dough.kept} pieces of ${dough.name} lie in the ${dough.keep_in} ${shape}`
          : `Put the ${dough.kept} pieces of ${dough.name} that are left in the cold store`,
        done: one.done,
        to: one.done ? "/cold" : `/cold?dough=${dough.dough_id}&pieces=${dough.kept}`,
        label: one.kept === null ? null : `/print/label/${one.kept}`,
      },
    ];
  });
}
