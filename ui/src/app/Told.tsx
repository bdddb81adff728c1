import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useLocation } from "react-router";
import { clockQuery } from "../logic/queries";
import { Cross } from "../parts/Cross";
import { useAtTheOven } from "../parts/useAtTheOven";
import { useLost } from "../parts/useDevices";

const BAR =
  "flex flex-wrap items-center gap-x-3 border-b border-line border-l-4 border-l-caution bg-sheet px-5 py-1.5 max-sm:px-3 print:hidden";

const MINUTE = 60_000;

/** Screens on which a device of the oven changes nothing. */
const LOOKED_AT = /^\/(?:dough|tray|plan|larder|kitchen|devices)\b/;

/** What every screen says: that nobody answers, that the clock is not what it was. */
export function Told() {
  const lost = useLost();
  const { data: jump } = useQuery(clockQuery);
  const queries = useQueryClient();
  const looksOnly = LOOKED_AT.test(useLocation().pathname);
  const atTheOven = useAtTheOven();
  const minutes = jump ? Math.round(jump.by_ms / MINUTE) : 0;
  return (
    <>
      <div aria-live="assertive">
        {lost && (
          <p className={BAR}>
            <strong className="text-caution">Fine Batch does not answer.</strong>
            What you do here stays, and goes on by itself when it is there again. Is it still
            running?
          </p>
        )}
      </div>
      <div aria-live="polite">
        {atTheOven && looksOnly && (
          <p className={BAR}>
            This device was let in for what is done at the oven: here it looks, and changes nothing.
          </p>
        )}
        {minutes !== 0 && (
          <p className={BAR}>
            <strong className="text-caution">The clock was set.</strong>
            This machine’s clock went {Math.abs(minutes)} min {minutes > 0 ? "ahead" : "back"} at
            once. Every time of a plan goes by the clock as it is now: look whether they are right.
            <button
              type="button"
              className="icon-press ml-auto"
              aria-label="Say no more of the clock"
              onClick={() => queries.setQueryData(clockQuery.queryKey, null)}
            >
              <Cross />
            </button>
          </p>
        )}
      </div>
    </>
  );
}
