import { useMutation, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, useEffect, useRef, useState } from "react";
import { useLocation } from "react-router";
import { api, body, isElsewhere } from "../api/client";
import { readIn, type Units, unitsOfRegion } from "../logic/kitchenUnits";
import { aboutQuery, coldQuery, currentSessionQuery, kitchenQuery } from "../logic/queries";

const REGION = unitsOfRegion(navigator.language);

const FONT = "1rem 'Atkinson Hyperlegible Next Variable'";
const MOST_FONT_MS = 400;

/** Whether the app's own face is there: another one's letters are wider, and all would move. */
function useFont(): boolean {
  const [there, setThere] = useState(false);
  useEffect(() => {
    const late = setTimeout(() => setThere(true), MOST_FONT_MS);
    document.fonts.load(FONT).then(
      () => setThere(true),
      () => setThere(true),
    );
    return () => clearTimeout(late);
  }, []);
  return there;
}

/** All screens, in the units of the kitchen: those of the browser's region until some are chosen. */
export function InUnits({ children }: { children: React.ReactNode }) {
  const kitchen = useQuery(kitchenQuery);
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (units: Units) => body(api.PUT("/api/kitchen/units", { body: units })),
    onSuccess: (kept) => queries.setQueryData(kitchenQuery.queryKey, kept),
  });
  const units = kitchen.data?.units ?? REGION;
  const read = JSON.stringify(units);
  const { mutate: keep } = choose;
  // Another device reads in its region's until the kitchen has some.
  const unset = kitchen.data?.units === null && !isElsewhere();
  useEffect(() => {
    if (unset) keep(REGION);
  }, [unset, keep]);
  // The header asks for the session again and again; here its first answer is waited for.
  const session = { ...currentSessionQuery, refetchInterval: false as const };
  const header = useQueries({ queries: [aboutQuery, session, coldQuery] });
  const font = useFont();
  const known = !kitchen.isPending && !unset && font && !header.some((one) => one.isPending);
  const before = useRef<string | null>(null);
  useEffect(() => {
    if (!known) return;
    // What was answered before was in other units; at the start nothing was.
    if (before.current !== null && before.current !== read)
      queries.invalidateQueries({
        predicate: (query) => query.queryKey !== kitchenQuery.queryKey,
      });
    before.current = read;
  }, [known, read, queries]);
  readIn(units);
  if (!known) return null;
  return children;
}

/** A screen, drawn anew when the units are others; but where they are set it stays, and draws itself
 * by what it sets. */
export function DrawnAnew({ children }: { children: React.ReactNode }) {
  const kitchen = useQuery(kitchenQuery);
  const { pathname } = useLocation();
  const sets = pathname === "/kitchen" || pathname.startsWith("/dough");
  return (
    <Fragment key={sets ? "set here" : JSON.stringify(kitchen.data?.units)}>{children}</Fragment>
  );
}
