import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Corners } from "../../logic/photo";
import { measuredQuery, type PhotoOf } from "../../logic/queries";
import { useSettled } from "../useSettled";

/** So long a corner stands still before all is measured anew. */
const STILL_MS = 500;

/** A photo measured by the corners that are found, or by those that a hand put right; nothing while
 * it is not known what it is of. */
export function useMeasured(of: PhotoOf | null, photo: File) {
  const [byHand, setCorners] = useState<Corners | null>(null);
  const settled = useSettled(byHand, STILL_MS);
  const measured = useQuery(measuredQuery(of, photo, settled));
  const found = of === null ? undefined : measured.data;
  return {
    found,
    problem: measured.error,
    isLooking: measured.isLoading,
    corners: byHand ?? found?.corners,
    setCorners,
    /** Whether what is found is of the corners as they are now. */
    isCurrent: measured.isSuccess && !measured.isPlaceholderData && settled === byHand,
  };
}
