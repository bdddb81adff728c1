import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useId, useRef } from "react";
import { useNavigate } from "react-router";
import { api, body } from "../../api/client";
import { forgetDough } from "../../logic/lastDough";
import { KEYS } from "../../logic/queries";
import { Notice } from "../../parts/Notice";

/** Throwing a dough away cannot be undone, so it asks first. */
export function RemoveDough({ id, name }: { id: number; name: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const dialog = useRef<HTMLDialogElement>(null);
  const title = useId();
  const remove = useMutation({
    mutationFn: () =>
      body(api.DELETE("/api/doughs/{dough_id}", { params: { path: { dough_id: id } } })),
    onSuccess: async () => {
      forgetDough();
      await queries.invalidateQueries({ queryKey: KEYS.doughs });
      navigate("/dough");
    },
  });
  return (
    <>
      <button
        type="button"
        className="self-start text-[0.9375rem] text-soft underline hover:text-ink"
        onClick={() => dialog.current?.showModal()}
      >
        Throw this dough away
      </button>
      <dialog
        ref={dialog}
        aria-labelledby={title}
        className="m-auto w-96 max-w-[90vw] border-2 border-ink bg-sheet p-6 text-ink backdrop:bg-dark/40"
      >
        <h2 id={title} className="text-xl font-bold">
          Throw “{name}” away?
        </h2>
        <p className="mt-2">
          Its card and its bakes in the book go with it. This cannot be taken back.
        </p>
        <Notice problem={remove.error} />
        <div className="mt-4 flex justify-end gap-3">
          <button type="button" className="press" onClick={() => dialog.current?.close()}>
            Keep it
          </button>
          <button type="button" className="press press-main" onClick={() => remove.mutate()}>
            Throw it away
          </button>
        </div>
      </dialog>
    </>
  );
}
