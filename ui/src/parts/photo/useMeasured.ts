import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { Corners, Size } from "../../logic/photo";
import { measuredQuery, type PhotoOf } from "../../logic/queries";
import { useSettled } from "../useSettled";

/** So long corners and sizes stand still before all is measured anew. */
const STILL_MS = 500;

/** A photo measured by the corners that are found, or by those that a hand put right: those of the
 * sheet, or of a thing of that size (mm) beside the pieces; nothing while that is not said. */
export function useMeasured(of: PhotoOf, photo: File, size: Size | null | undefined) {
  const [byHand, setCorners] = useState<Corners | null>(null);
  const asked = useMemo(() => ({ size, corners: byHand }), [size, byHand]);
  const settled = useSettled(asked, STILL_MS);
  const beside = settled.size;
  const known = beside === undefined ? null : beside === null ? of : { ...of, besideMm: beside };
  const measured = useQuery(measuredQuery(known, photo, settled.corners));
  const found = known === null ? undefined : measured.data;
  return {
    found,
    problem: measured.error,
    isLooking: measured.isLoading,
    corners: byHand ?? found?.corners,
    setCorners,
    /** Whether what is found is of corners and size as they are now. */
    isCurrent: measured.isSuccess && !measured.isPlaceholderData && settled === asked,
  };
}
