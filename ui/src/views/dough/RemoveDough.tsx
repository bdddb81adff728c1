import { useMutation, useQueryClient } from "@tanstack/react-query";
import { AlertDialog } from "radix-ui";
import { useNavigate } from "react-router";
import { api, body } from "../../api/client";
import { forgetDough } from "../../app/lastDough";
import { Notice } from "../../parts/Notice";

/** Throwing a dough away cannot be undone, so it asks first. */
export function RemoveDough({ id, name }: { id: number; name: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const remove = useMutation({
    mutationFn: () =>
      body(api.DELETE("/api/doughs/{dough_id}", { params: { path: { dough_id: id } } })),
    onSuccess: async () => {
      forgetDough();
      await queries.invalidateQueries({ queryKey: ["doughs"] });
      navigate("/dough");
    },
  });
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="self-start text-[0.9375rem] text-soft underline hover:text-ink">
        Throw this dough away
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-20 bg-dark/40" />
        <AlertDialog.Content className="fixed top-1/3 left-1/2 z-30 w-96 max-w-[90vw] -translate-x-1/2 border-2 border-ink bg-sheet p-6">
          <AlertDialog.Title className="text-xl font-bold">Throw “{name}” away?</AlertDialog.Title>
          <AlertDialog.Description className="mt-2">
            Its card and its bakes in the book go with it. This cannot be taken back.
          </AlertDialog.Description>
          <Notice problem={remove.error} />
          <div className="mt-4 flex justify-end gap-3">
            <AlertDialog.Cancel className="press">Keep it</AlertDialog.Cancel>
            <button type="button" className="press press-main" onClick={() => remove.mutate()}>
              Throw it away
            </button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
