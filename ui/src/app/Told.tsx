import { useQuery, useQueryClient } from "@tanstack/react-query";
import { clockQuery } from "../logic/queries";
import { Cross } from "../parts/Cross";
import { useLost } from "../parts/useDevices";

const BAR =
  "flex flex-wrap items-center gap-x-3 border-b border-line border-l-4 border-l-caution bg-sheet px-5 py-1.5 max-sm:px-3 print:hidden";

const MINUTE = 60_000;

/** What every screen says: that nobody answers, that the clock is not what it was. */
export function Told() {
  const lost = useLost();
  const { data: jump } = useQuery(clockQuery);
  const queries = useQueryClient();
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
