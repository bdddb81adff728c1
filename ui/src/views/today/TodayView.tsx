import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { drawerQuery, FIRST_DRAWN } from "../../logic/queries";
import { FirstStart } from "../../parts/FirstStart";
import { Notice } from "../../parts/Notice";
import { useNewDough } from "../../parts/useNewDough";
import { BaseDoughs } from "./BaseDoughs";
import { InTheCold, ToWrite } from "./Beside";
import { ComingDay } from "./ComingDay";
import { Doughs } from "./Doughs";
import { SeeTheDemo } from "./SeeTheDemo";

/** The first screen: what is baked next, what is due, what waits, and the doughs. */
export function TodayView() {
  const start = useNewDough();
  const [bases, setBases] = useState(false);
  const some = useQuery(drawerQuery("", FIRST_DRAWN)).data?.total !== 0;
  return (
    <div className="flex flex-col gap-6 p-5 max-sm:p-3">
      <h1 className="sr-only">Today</h1>
      <FirstStart />
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1.85fr)_minmax(0,1fr)]">
        <ComingDay />
        <div className="flex min-w-0 flex-col gap-5">
          <InTheCold />
          <ToWrite />
        </div>
      </div>
      {some && <Doughs />}
      <div className="flex flex-wrap gap-3">
        <button
          type="button"
          className="press press-main"
          disabled={start.isPending}
          onClick={() => start.mutate("pasted")}
        >
          Paste a card
        </button>
        {some && (
          <button
            type="button"
            className="press"
            aria-expanded={bases}
            onClick={() => setBases(!bases)}
          >
            Start from a base dough
          </button>
        )}
        <Link to="/dough" className="press">
          Bring in a file
        </Link>
        <Link to="/plan" className="press">
          Plan an occasion
        </Link>
        {!some && <SeeTheDemo />}
      </div>
      <Notice problem={start.error} />
      {!some && <Doughs />}
      {bases && some && <BaseDoughs />}
    </div>
  );
}
