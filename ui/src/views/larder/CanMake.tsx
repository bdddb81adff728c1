import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { mass } from "../../logic/format";
import { timesWords } from "../../logic/occasion";
import { makesQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";

/** What can be made of what is in the house; what has to be used up first, first. */
export function CanMake() {
  const makes = useQuery(makesQuery);
  if (!makes.data) return <Notice problem={makes.error} />;
  return (
    <section aria-label="What can be made">
      <h2 className="heading">What can be made of it</h2>
      {makes.data.length === 0 && (
        <p className="mt-1 text-soft">
          Nothing yet: write down at an ingredient how much of it is in the house.
        </p>
      )}
      <ul>
        {makes.data.map((one) => (
          <Makes key={one.dough_id} one={one} />
        ))}
      </ul>
      {makes.data.length > 0 && (
        <p className="mt-2 text-[0.9375rem] text-soft">
          Salt, leaveners, spices and water are taken as being there.
        </p>
      )}
    </section>
  );
}

function Makes({ one }: { one: Schemas["CanMake"] }) {
  const whole = one.short.length === 0;
  return (
    <li className="border-b border-line py-1.5">
      <span className="flex items-baseline justify-between gap-3">
        <Link to={`/plan/${one.dough_id}`} className="font-semibold hover:underline">
          {one.name}
        </Link>
        {one.pieces !== null && (
          <span className="flex-none">
            <strong>{one.pieces}</strong> pieces
          </span>
        )}
      </span>
      <span className="text-[0.9375rem] text-soft">
        {whole
          ? `${timesWords(Math.floor(one.times * 4) / 4)} × its card`
          : `short of ${one.short.map((s) => `${mass(s.grams)} ${s.name}`).join(", ")}`}
        {one.uses_up.length > 0 && `; uses up ${one.uses_up.join(", ")}`}
      </span>
    </li>
  );
}
