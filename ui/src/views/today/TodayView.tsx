import { Link } from "react-router";
import { FirstStart } from "../../parts/FirstStart";
import { InTheCold, ToWrite } from "./Beside";
import { ComingDay } from "./ComingDay";
import { Doughs } from "./Doughs";

/** The first screen: what is baked next, what is due, what waits, and the doughs. */
export function TodayView() {
  return (
    <div className="flex flex-col gap-6 p-5 max-sm:p-3">
      <h1 className="sr-only">Today</h1>
      <FirstStart />
      <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1.85fr)_minmax(0,1fr)]">
        <ComingDay />
        <div className="flex min-w-0 flex-col gap-5">
          <InTheCold />
          <ToWrite />
        </div>
      </div>
      <Doughs />
      <p className="flex flex-wrap gap-3">
        <Link to="/dough" className="press press-main">
          Paste a card
        </Link>
        <Link to="/plan" className="press">
          Plan an occasion
        </Link>
      </p>
    </div>
  );
}
