import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { daysLeft } from "../../logic/daysLeft";
import { date } from "../../logic/format";
import { coldQuery, todayQuery } from "../../logic/queries";
import { DaysStrip } from "../../parts/DaysStrip";
import { Notice } from "../../parts/Notice";

const MOST = 4;

/** What lies in the cold, the soonest due first, with its days as a strip. */
export function InTheCold() {
  const store = useQuery(coldQuery);
  if (!store.data) return <Notice problem={store.error} />;
  const { kept, now } = store.data;
  const due = kept.filter((item) => item.soon).length;
  return (
    <section aria-label="In the cold">
      <h2 className="heading">
        In the cold
        <span className="text-[0.9375rem] font-normal text-soft">
          {kept.length === 0 ? "nothing" : due === 0 ? "nothing is due" : `${due} due`}
        </span>
      </h2>
      {kept.length === 0 && (
        <p className="py-2 text-soft">
          What you do not bake at once stands here until its day.{" "}
          <Link to="/cold" className="underline">
            Put something away
          </Link>
        </p>
      )}
      <ul>
        {kept.slice(0, MOST).map((item) => (
          <li key={item.id} className="border-b border-line">
            <Link to="/cold" className="block py-2 hover:bg-wash">
              <span className="flex flex-wrap gap-x-2">
                <span className={item.soon ? "font-bold text-caution" : ""}>
                  {daysLeft(item, now)}
                </span>
                <strong className="break-words">{item.name}</strong>
                <span>
                  {item.pieces} {item.form === "baked" ? "baked" : `pieces as ${item.form_words}`}
                </span>
              </span>
              <DaysStrip item={item} now={now} className="h-1.5" />
            </Link>
          </li>
        ))}
      </ul>
      {kept.length > MOST && (
        <Link to="/cold" className="mt-1 inline-block py-1 underline">
          All {kept.length}
        </Link>
      )}
    </section>
  );
}

/** What was baked, and of which nobody has written down what came out. */
export function ToWrite() {
  const waiting = useQuery(todayQuery).data?.to_write ?? [];
  if (waiting.length === 0) return null;
  return (
    <section aria-label="To write down">
      <h2 className="heading">
        To write down
        <span className="text-[0.9375rem] font-normal text-soft">
          what came out teaches the next prediction
        </span>
      </h2>
      <ul>
        {waiting.map((one) => (
          <li
            key={`${one.session_id} ${one.letter}`}
            className="flex flex-wrap items-center gap-x-3 border-b border-line py-2"
          >
            <span className="mr-auto">
              <strong className="break-words">{one.name}</strong>, baked {date(one.baked_at)}
            </span>
            <Link
              to={`/book/${one.dough_id}?session=${one.session_id}`}
              className="press"
              aria-label={`Write down what came of ${one.name}`}
            >
              Write it down
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
