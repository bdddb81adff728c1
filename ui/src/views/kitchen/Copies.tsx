import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { writeMoment } from "../../logic/moments";
import { copiesQuery } from "../../logic/queries";
import { AskFirst } from "../../parts/AskFirst";
import { Notice } from "../../parts/Notice";
import { useMakeCopy, usePutBack } from "./useCopies";

type Copy = Schemas["Copy"];

const WHY: Record<Copy["why"], string> = {
  daily: "made by itself",
  before: "from before a change of all",
  asked: "asked for",
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
  const putBack = usePutBack();
  const [wanted, setWanted] = useState<Copy | null>(null);
  const dialog = useRef<HTMLDialogElement>(null);
  const ask = (copy: Copy) => {
    putBack.reset();
    setWanted(copy);
    dialog.current?.showModal();
  };
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
              <button type="button" className="press min-h-9 flex-none" onClick={() => ask(copy)}>
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
            </li>
          ))}
        </ul>
      )}
      {copies.data?.length === 0 && (
        <p>There is none yet: the first is made a minute after a start.</p>
      )}
      <div>
        <button
          type="button"
          className="press"
          disabled={make.isPending}
          onClick={() => make.mutate()}
        >
          Make a copy now
        </button>
      </div>
      {putBack.data && (
        <p role="status">
          It is back{putBack.data.photos > 0 && `, with ${putBack.data.photos} photos`}.
          {putBack.data.aside && ` What was there before lies in ${putBack.data.aside}.`}
        </p>
      )}
      <p className="text-[0.9375rem] text-soft">
        One from another disk is put back with the app stopped:{" "}
        <code>finebatch restore FILE.zip</code>
      </p>
      <AskFirst
        dialog={dialog}
        title={`Put the copy of ${wanted ? writeMoment(wanted.at) : ""} back?`}
        problem={putBack.error}
        no="Leave all as it is"
        yes="Put it back"
        pending={putBack.isPending}
        onNo={() => dialog.current?.close()}
        onYes={() =>
          wanted && putBack.mutate(wanted.name, { onSuccess: () => dialog.current?.close() })
        }
      >
        It takes the place of all that there is now: doughs, sessions, book, cold store, larder and
        kitchen. What is there now is copied before, and can be put back the same way.
      </AskFirst>
      <Notice problem={make.error ?? copies.error} />
    </section>
  );
}
