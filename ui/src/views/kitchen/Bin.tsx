import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { writeMoment } from "../../logic/moments";
import { binQuery, type Thrown } from "../../logic/queries";
import { AskFirst } from "../../parts/AskFirst";
import { Notice } from "../../parts/Notice";
import { useLetGo, usePutBack } from "../../parts/usePutBack";

const KINDS: Record<string, string> = {
  dough: "a dough with its bakes",
  ingredient: "an ingredient",
  session: "a plan",
  bake: "a bake of the book",
  cold: "out of the cold store",
  pack: "a pack in the house",
  occasion: "an occasion",
  part: "a part of something",
};

/** What was thrown away in the last month, and what could not be read. */
export function Bin() {
  const bin = useQuery(binQuery);
  const back = usePutBack();
  const letGo = useLetGo();
  const [wanted, setWanted] = useState<Thrown | null>(null);
  const dialog = useRef<HTMLDialogElement>(null);
  const ask = (thrown: Thrown) => {
    letGo.reset();
    setWanted(thrown);
    dialog.current?.showModal();
  };
  return (
    <section aria-label="Bin" className="flex flex-col gap-2">
      <h2 className="heading">Thrown away</h2>
      {bin.data?.length === 0 && (
        <p>Nothing in the last 30 days. So long it could be put back from here.</p>
      )}
      {bin.data && bin.data.length > 0 && (
        <ul>
          {bin.data.map((thrown) => (
            <li
              key={thrown.id}
              className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5"
            >
              <span className="min-w-48 flex-1">
                <strong className="break-words">{thrown.name}</strong>, {KINDS[thrown.kind]},{" "}
                {thrown.fault ? "put here" : "thrown away"} {writeMoment(thrown.at)}; kept until{" "}
                {writeMoment(thrown.until)}.
                {thrown.fault && (
                  <span className="block break-words text-caution">
                    It cannot be read: {thrown.fault}
                  </span>
                )}
              </span>
              {thrown.fault ? (
                <a
                  className="press min-h-9 flex-none"
                  href={`/api/bin/${thrown.id}/file`}
                  aria-label={`Save ${thrown.name} as a file`}
                  download
                >
                  Save
                </a>
              ) : (
                <button
                  type="button"
                  className="press min-h-9 flex-none"
                  aria-label={`Put ${thrown.name} back`}
                  onClick={() => back.mutate(thrown.id)}
                >
                  Put it back
                </button>
              )}
              <button
                type="button"
                className="press min-h-9 flex-none"
                aria-label={`Throw ${thrown.name} away for good`}
                onClick={() => ask(thrown)}
              >
                Throw out
              </button>
            </li>
          ))}
        </ul>
      )}
      <AskFirst
        dialog={dialog}
        title={`Throw “${wanted?.name}” away for good?`}
        problem={letGo.error}
        no="Leave it in the bin"
        yes="Throw it away"
        pending={letGo.isPending}
        onNo={() => dialog.current?.close()}
        onYes={() =>
          wanted && letGo.mutate(wanted.id, { onSuccess: () => dialog.current?.close() })
        }
      >
        It cannot be put back then. A copy of all that you have may still hold it.
      </AskFirst>
      <Notice problem={back.error ?? bin.error} />
    </section>
  );
}
