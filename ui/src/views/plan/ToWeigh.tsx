import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { Link } from "react-router";
import type { BakingSession, Schemas } from "../../api/client";
import { mass, when } from "../../logic/format";
import { alike, money, packsWords, shoppingList } from "../../logic/occasion";
import { shelfQuery } from "../../logic/queries";
import { DoughMark } from "../../parts/DoughMark";
import { Scrolled } from "../../parts/Scrolled";
import { ShareList } from "./ShareList";

type Shelf = Schemas["Shelf"];
type Needed = Shelf["needed"][number];

/** What the whole session needs, summed over its doughs and parts; what leaves the cold, and when. */
export function ToWeigh({ plan }: { plan: BakingSession }) {
  const shelf = useQuery(shelfQuery(plan));
  if (!shelf.data) return <p className="text-soft">One moment…</p>;
  return (
    <div className="flex flex-col gap-4">
      <TakeOut plan={plan} takeOut={shelf.data.take_out} />
      <ToBuy needed={shelf.data.needed} />
      <WeighOut plan={plan} needed={shelf.data.needed} />
      <Costs plan={plan} costs={shelf.data.costs ?? []} />
      <p className="flex flex-wrap items-center gap-3 print:hidden">
        <ShareList text={shoppingList(plan.name, shelf.data.needed, mass)} />
        <Link className="press" to={`/print/lists/${plan.id}`}>
          Print these lists
        </Link>
        <Link className="press" to="/larder">
          What is in the house
        </Link>
      </p>
    </div>
  );
}

function TakeOut({ plan, takeOut }: { plan: BakingSession; takeOut: Shelf["take_out"] }) {
  if (takeOut.length === 0) return null;
  return (
    <section aria-label="Out of the cold">
      <h3 className="font-bold">Out of the cold</h3>
      <ul>
        {takeOut.map((t) => (
          <li key={`${t.at} ${t.what}`}>
            <strong>{when(t.at, plan.now)}</strong> {t.what}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is not there yet, in packs where they are known; and what is there already. */
export function ToBuy({ needed }: { needed: readonly Needed[] }) {
  const buy = needed.filter((one) => one.buy_g > 0);
  const there = needed.filter((one) => one.buy_g <= 0);
  const priced = buy.filter((one) => one.price !== null);
  const sum = priced.reduce((total, one) => total + (one.price ?? 0), 0);
  return (
    <section aria-label="To buy">
      <h3 className="font-bold">
        To buy{" "}
        {priced.length > 0 && (
          <span className="font-normal text-soft">
            {money(sum)} in your money
            {priced.length < buy.length && `, for the ${priced.length} that have a price`}
          </span>
        )}
      </h3>
      <ul className="columns-2 gap-8 max-sm:columns-1">
        {buy.map((one) => (
          <li
            key={one.key}
            className="flex break-inside-avoid items-baseline justify-between gap-3 border-b border-line py-0.5"
          >
            <span>
              {one.name}
              {one.there_g > 0 && (
                <span className="text-soft">, {mass(one.there_g)} are there</span>
              )}
            </span>
            <span className="min-w-0 text-right">
              <strong>{packsWords(one, mass)}</strong>
              {one.packs === null && one.own !== mass(one.grams) && one.there_g === 0 && (
                <span className="text-soft"> {one.own}</span>
              )}
            </span>
          </li>
        ))}
      </ul>
      {buy.length === 0 && <p>Nothing: all of it is in the house.</p>}
      {there.length > 0 && buy.length > 0 && (
        <p className="mt-1 text-soft">
          In the house already: {there.map((one) => one.name).join(", ")}.
        </p>
      )}
    </section>
  );
}

/** All that is weighed, ingredient by ingredient: once for all doughs, bowl by bowl. */
export function WeighOut({ plan, needed }: { plan: BakingSession; needed: readonly Needed[] }) {
  const several = plan.doughs.length > 1;
  return (
    <section aria-label="To weigh">
      <h3 className="font-bold">To weigh</h3>
      <Scrolled label="Ingredient by ingredient">
        <table className="w-full text-left">
          <tbody>
            {needed.map((one) => (
              <tr key={one.key} className="border-b border-line align-middle">
                <th scope="row" className="py-0.5 pr-4 font-normal">
                  {one.name}
                </th>
                <td className="pr-4">
                  <span className="flex flex-wrap gap-x-5">
                    {one.each.map((each) => (
                      <Fragment key={each.letter}>
                        {alike(each.bowls_g).map(([grams, bowls]) => (
                          <span
                            key={grams}
                            className="inline-flex items-center gap-1.5 whitespace-nowrap"
                          >
                            {several && <DoughMark letter={each.letter} size={18} />}
                            {(bowls > 1 || each.bowls_g.length > 1) &&
                              `${bowls} ${bowls > 1 ? "bowls" : "bowl"} of `}
                            <strong>{mass(grams)}</strong>
                          </span>
                        ))}
                        {(each.parts_g ?? 0) > 0 && (
                          <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
                            {several && <DoughMark letter={each.letter} size={18} />}
                            <strong>{mass(each.parts_g ?? 0)}</strong>
                            <span className="text-soft">on its pieces</span>
                          </span>
                        )}
                      </Fragment>
                    ))}
                  </span>
                </td>
                <td className="text-right whitespace-nowrap text-soft">
                  {several && one.each.length > 1 && `${mass(one.grams)} in all`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
    </section>
  );
}

function Costs({ plan, costs }: { plan: BakingSession; costs: NonNullable<Shelf["costs"]> }) {
  const known = costs.filter((one) => one.cost > 0);
  if (known.length === 0) return null;
  return (
    <section aria-label="What it costs">
      <h3 className="font-bold">
        What it costs <span className="font-normal text-soft">in your money</span>
      </h3>
      <ul>
        {known.map((one) => (
          <li key={one.letter}>
            {plan.doughs.find((dough) => dough.letter === one.letter)?.name}:{" "}
            <strong>{money(one.cost)}</strong>
            {one.each !== null && `, ${money(one.each)} a piece`}
            {one.unpriced.length > 0 && (
              <span className="text-soft">, without {one.unpriced.join(", ")}</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
