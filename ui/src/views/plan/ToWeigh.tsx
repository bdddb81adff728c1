import { useQuery } from "@tanstack/react-query";
import type { BakingSession } from "../../api/client";
import { mass, when } from "../../logic/format";
import { shelfQuery } from "../../logic/queries";

/** What the whole session needs, summed over its doughs and parts; what leaves the cold, and when. */
export function ToWeigh({ plan }: { plan: BakingSession }) {
  const shelf = useQuery(shelfQuery(plan));
  if (!shelf.data) return <p className="text-soft">One moment…</p>;
  const { needed, take_out } = shelf.data;
  return (
    <div>
      {take_out.length > 0 && (
        <>
          <h3 className="mt-2 font-bold">Out of the cold</h3>
          <ul>
            {take_out.map((t) => (
              <li key={`${t.at} ${t.what}`}>
                <strong>{when(t.at, plan.now)}</strong> {t.what}
              </li>
            ))}
          </ul>
        </>
      )}
      <h3 className="mt-2 font-bold">To buy and to weigh</h3>
      <ul className="columns-2 gap-8 max-sm:columns-1">
        {needed.map((n) => (
          <li
            key={n.key}
            className="flex break-inside-avoid items-baseline justify-between gap-3 border-b border-line py-0.5"
          >
            <span>
              {n.name} <span className="text-soft">{n.letters.join(", ")}</span>
            </span>
            <span className="flex-none">
              <strong>{mass(n.grams)}</strong>
              {n.own !== mass(n.grams) && <span className="text-soft"> {n.own}</span>}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
