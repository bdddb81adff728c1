import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { date } from "../../logic/format";
import { bookWordsQuery, drawerQuery, FIRST_DRAWN, wordsQuery } from "../../logic/queries";
import { VERDICTS } from "../../logic/verdicts";
import { Notice } from "../../parts/Notice";
import { BaseDoughs } from "./BaseDoughs";
import { ON_RULER, OnRuler, scaleOf } from "./OnRuler";

type Drawn = Schemas["DrawnDough"];

const MORE = 24;

/** The doughs from the side, to one scale and on one ruler, as they last came out. */
export function Doughs() {
  const [most, setMost] = useState(FIRST_DRAWN);
  const drawer = useQuery(drawerQuery("", most));
  const words = useQuery(wordsQuery);
  const book = useQuery(bookWordsQuery);
  const found = drawer.data;
  if (!found) return <Notice problem={drawer.error} />;
  if (found.total === 0) return <BaseDoughs />;
  const scale = scaleOf(found.doughs);
  return (
    <section aria-label="Doughs">
      <h2 className="heading">
        Doughs
        <span className="text-[0.9375rem] font-normal text-soft">
          to one scale, as they last came out; {found.doughs.length} of {found.total}, the latest
          first
        </span>
      </h2>
      <ul className={ON_RULER}>
        {found.doughs.map((dough) => (
          <li key={dough.id} className="min-w-0">
            <Link to={`/dough/${dough.id}`} className="block hover:bg-wash">
              <OnRuler piece={dough.piece} scale={scale} />
              <span className="block px-2.5 pb-1">
                <strong className="block text-lg break-words">{dough.name}</strong>
                <span className="text-[0.9375rem] text-soft">
                  {words.data?.families.find((f) => f.key === dough.family)?.label} ·{" "}
                  {said(dough, book.data?.troubles ?? {})}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {found.total > found.doughs.length && (
        <p className="mt-2 flex gap-3">
          {most === FIRST_DRAWN && (
            <button type="button" className="press" onClick={() => setMost(MORE)}>
              Show more
            </button>
          )}
          <Link to="/dough" className="press">
            All {found.total}
          </Link>
        </p>
      )}
    </section>
  );
}

/** How it came out last, in a baker's words. */
function said({ last, piece }: Drawn, troubles: Record<string, string>): string {
  if (!last) return piece ? "not baked yet" : "not baked yet, no piece foreseen";
  const verdict = VERDICTS.find(([key]) => key === last.verdict)?.[1];
  const told = [...last.troubles.map((key) => troubles[key] ?? key), verdict];
  return [...told.filter(Boolean), date(last.at)].join(" · ");
}
