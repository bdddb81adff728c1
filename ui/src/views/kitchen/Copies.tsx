import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { writeMoment } from "../../logic/moments";
import { copiesQuery } from "../../logic/queries";
import { AskFirst } from "../../parts/AskFirst";
import { Cross } from "../../parts/Cross";
import { FilePress } from "../../parts/FilePress";
import { Notice } from "../../parts/Notice";
import { useBringCopy, useMakeCopy, usePutBack, useThrowCopy } from "./useCopies";

type Copy = Schemas["Copy"];

const WHY: Record<Copy["why"], string> = {
  daily: "made by itself",
  before: "from before a change of all",
  asked: "asked for",
  brought: "from another disk",
};

const sized = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

const held = (copy: Copy): string =>
  Object.entries(copy.holds)
    .filter(([, number]) => number > 0)
    .map(([what, number]) => `${number} ${what}`)
    .join(", ");

/** The copies of all that there is, to look at, to make and to take elsewhere. */
export function Copies() {
  const copies = useQuery(copiesQuery);
  const make = useMakeCopy();
  const bring = useBringCopy();
  const throwAway = useThrowCopy();
  const putBack = usePutBack();
  const [wanted, setWanted] = useState<Copy | null>(null);
  const dialog = useRef<HTMLDialogElement>(null);
  const [to, setTo] = useState<"back" | "away">("back");
  const ask = (copy: Copy, where: "back" | "away") => {
    putBack.reset();
    throwAway.reset();
    setWanted(copy);
    setTo(where);
    dialog.current?.showModal();
  };
  const act = to === "back" ? putBack : throwAway;
  return (
    <section aria-label="Copies" className="flex flex-col gap-2">
      <h2 className="heading">Copies of all that you have</h2>
      <p>
        One a day is made by itself where something has changed; the last seven are kept, and one of
        each of four weeks before. Keep one on another disk, too.
      </p>
      {copies.data && copies.data.length > 0 && (
        <ul>
          {copies.data.map((copy) => (
            <li key={copy.name} className="flex items-center gap-x-3 border-b border-line py-1.5">
              <span className="min-w-0 flex-1">
                <strong>{writeMoment(copy.at)}</strong>, {WHY[copy.why]}, {sized(copy.size)}
                {held(copy) && `: ${held(copy)}`}
              </span>
              <button
                type="button"
                className="press min-h-9 flex-none"
                onClick={() => ask(copy, "back")}
              >
                Put it back
              </button>
              <a
                className="press min-h-9 flex-none"
                href={`/api/copies/${copy.name}`}
                aria-label={`Save the copy of ${writeMoment(copy.at)}`}
                download
              >
                Save
              </a>
              <button
                type="button"
                className="icon-press flex-none"
                aria-label={`Throw the copy of ${writeMoment(copy.at)} away`}
                onClick={() => ask(copy, "away")}
              >
                <Cross />
              </button>
            </li>
          ))}
        </ul>
      )}
      {copies.data?.length === 0 && (
        <p>There is none yet: the first is made a minute after a start.</p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="press"
          disabled={make.isPending}
          onClick={() => make.mutate()}
        >
          Make a copy now
        </button>
        <FilePress accept=".zip,application/zip" disabled={bring.isPending} onFile={bring.mutate}>
          {bring.isPending ? "It is looked through…" : "Bring in one from another disk"}
        </FilePress>
        <a className="press" href="/api/everything" download>
          Save everything as open files
        </a>
      </div>
      <p className="text-[0.9375rem] text-soft">
        Open files are recipes, tables and pictures that other programs read; they can be brought in
        here again like a copy.
      </p>
      {bring.data && (
        <p role="status">It stands in the list: press “Put it back” to have what is in it.</p>
      )}
      {putBack.data && (
        <p role="status">
          It is back{putBack.data.photos > 0 && `, with ${putBack.data.photos} photos`}.
          {putBack.data.aside && ` What was there before lies in ${putBack.data.aside}.`}
        </p>
      )}
      <AskFirst
        dialog={dialog}
        title={
          to === "back"
            ? `Put the copy of ${wanted ? writeMoment(wanted.at) : ""} back?`
            : `Throw the copy of ${wanted ? writeMoment(wanted.at) : ""} away?`
        }
        problem={act.error}
        no="Leave all as it is"
        yes={to === "back" ? "Put it back" : "Throw it away"}
        pending={act.isPending}
        onNo={() => dialog.current?.close()}
        onYes={() =>
          wanted && act.mutate(wanted.name, { onSuccess: () => dialog.current?.close() })
        }
      >
        {to === "back"
          ? "It takes the place of all that there is now: doughs, sessions, book, cold store, larder and kitchen. What is there now is copied before, and can be put back the same way."
          : "What is in use now stays as it is; what only this copy holds is gone for good."}
      </AskFirst>
      <Notice problem={make.error ?? bring.error ?? copies.error} />
    </section>
  );
}
