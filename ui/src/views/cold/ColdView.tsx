import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { date, FREEZER, FRIDGE } from "../../logic/format";
import { coldQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import type { Place } from "./changes";
import { Kept } from "./Kept";
import { PutAway } from "./PutAway";

const PLACES: readonly (readonly [Place, string, () => string])[] = [
  ["fridge", "Fridge", () => `at or below ${FRIDGE()}`],
  ["freezer", "Freezer", () => `at or below ${FREEZER()}`],
  ["tin", "Tins", () => "dry and closed"],
];

/** What is kept for another day, place by place, and what is due soon. */
export default function ColdView() {
  const [params] = useSearchParams();
  const store = useQuery(coldQuery);
  if (store.error && !store.data) {
    return (
      <div className="p-6">
        <Notice problem={store.error} />
      </div>
    );
  }
  if (!store.data) return <p className="p-6 text-soft">One moment…</p>;
  const { kept, gone, now, caution } = store.data;
  return (
    <div className="grid grid-cols-1 flex-1 content-start gap-x-8 gap-y-6 p-5 max-sm:p-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="flex min-w-0 flex-col gap-5">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <h1 className="text-2xl font-bold">Cold store</h1>
          {kept.length > 0 && (
            <Link to="/print/labels" className="press min-h-9">
              Print the labels of all
            </Link>
          )}
        </div>
        {kept.length === 0 && (
          <p className="border border-dashed border-line p-8 text-lg text-soft">
            Nothing is kept for another day. Dough keeps some days cold and weeks frozen: put away
            what you do not bake, and it is said here when it is due.
          </p>
        )}
        {PLACES.map(([place, name, how]) => {
          const here = kept.filter((item) => item.place === place);
          if (here.length === 0) return null;
          return (
            <section key={place} aria-label={name}>
              <h2 className="heading">
                {name}
                <span className="text-[0.9375rem] font-normal text-soft">{how()}</span>
              </h2>
              <ul>
                {here.map((item) => (
                  <Kept key={item.id} item={item} now={now} />
                ))}
              </ul>
            </section>
          );
        })}
        <p>
          <strong className="text-caution">Caution:</strong> dough with egg or dairy is not over two
          hours at room temperature in all. {caution}
        </p>
        {gone.length > 0 && (
          <details>
            <summary className="cursor-pointer font-bold">What has gone</summary>
            <ul>
              {gone.map((item) => (
                <li key={item.id} className="border-b border-line py-1">
                  {item.name}:{" "}
                  {item.events.map((event) => `${date(event.at)} ${event.said}`).join("; ")}
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
      <PutAway
        now={now}
        doughId={Number(params.get("dough")) || null}
        pieces={Number(params.get("pieces")) || null}
      />
    </div>
  );
}
