import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useLocation } from "react-router";
import { isElsewhere } from "../api/client";
import { clockQuery } from "../logic/queries";
import { Cross } from "../parts/Cross";
import { useAtTheOven } from "../parts/useAtTheOven";
import { useLost } from "../parts/useDevices";
import { BAR } from "./bar";
import { CameTooLate, Waits } from "./Waits";

const MINUTE = 60_000;

/** Screens on which a device of the oven changes nothing. */
const LOOKED_AT = /^\/(?:dough|tray|plan|larder|kitchen|devices)\b/;

/** What every screen says: that nobody answers, what waits or came too late, that the clock was set. */
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
            {isElsewhere() ? (
              <>
                <strong className="text-caution">No network.</strong>
                Bake goes on by the plan as it was. What you say is kept, and sent in its order once
                the network is back.
              </>
            ) : (
              <>
                <strong className="text-caution">Fine Batch does not answer.</strong>
                What you do here stays, and goes on by itself when it is there again. Is it still
                running?
              </>
            )}
          </p>
        )}
        <CameTooLate />
      </div>
      <div aria-live="polite">
        <Waits />
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
