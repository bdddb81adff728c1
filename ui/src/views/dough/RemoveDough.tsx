import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { useNavigate } from "react-router";
import { api, body } from "../../api/client";
import { forgetDough } from "../../logic/lastDough";
import { KEYS, threwAway } from "../../logic/queries";
import { AskFirst } from "../../parts/AskFirst";

/** Much goes with a dough that is thrown away, so it asks first. */
export function RemoveDough({ id, name }: { id: number; name: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const dialog = useRef<HTMLDialogElement>(null);
  const remove = useMutation({
    mutationFn: () =>
      body(api.DELETE("/api/doughs/{dough_id}", { params: { path: { dough_id: id } } })),
    onSuccess: async (thrown) => {
      forgetDough();
      threwAway(queries, thrown);
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
      <AskFirst
        dialog={dialog}
        title={`Throw “${name}” away?`}
        problem={remove.error}
        no="Keep it"
        yes="Throw it away"
        onNo={() => dialog.current?.close()}
        onYes={() => remove.mutate()}
      >
        Its card and its bakes in the book go with it into the bin, which stands on the Kitchen
        screen and keeps them for 30 days.
      </AskFirst>
    </>
  );
}
