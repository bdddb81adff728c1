import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { BakingSession } from "../../api/client";
import { toDo } from "../../logic/closing";
import { currentSessionQuery } from "../../logic/queries";

/** From writing down one dough of a session straight to the next one, or back to what is left. */
export function NextToClose({ session, doughId }: { session: BakingSession; doughId: number }) {
  const current = useQuery(currentSessionQuery);
  const now = current.data?.id === session.id ? current.data : null;
  if (!now || now.closing.length === 0) return null;
  const own = now.doughs.find((one) => one.dough_id === doughId)?.letter;
  const list = toDo(now);
  const written = list.find((one) => one.key === `write ${own}`)?.done;
  const next = list.find((one) => !one.done && one.to?.startsWith("/book/"));
  return (
    <p className="flex flex-wrap gap-3">
      {written && next?.to && (
        <Link to={next.to} className="press press-main min-h-12 text-lg">
          Next: {next.says.toLowerCase()}
        </Link>
      )}
      <Link to="/bake" className="press min-h-12 text-lg">
        What is left of the session
      </Link>
    </p>
  );
}
