import { useMutation } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { Stepper } from "../../parts/Stepper";
import type { FieldsProps } from "./fields";

/** All of the dough in so many pieces of one mass. */
export function SharedOut({
  label,
  tray,
  doughId,
  setting,
  onPiece,
}: FieldsProps & { label: string }) {
  const share = useMutation({
    mutationFn: (pieces: number) =>
      body(
        api.POST("/api/doughs/{dough_id}/shared-out", {
          params: { path: { dough_id: doughId } },
          body: { ...setting, tried: [], pieces },
        }),
      ),
    onSuccess: (piece) => onPiece(() => piece),
  });
  if (!tray) return null;
  return (
    <Stepper
      label={label}
      value={share.isPending ? share.variables : tray.yields.made}
      range={[1, 30]}
      onChange={(pieces) => share.mutate(pieces)}
    />
  );
}
