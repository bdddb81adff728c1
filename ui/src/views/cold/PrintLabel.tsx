import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import type { Dough } from "../../api/client";
import { contains } from "../../logic/allergens";
import { date } from "../../logic/format";
import { coldQuery, doughQuery, studyQuery } from "../../logic/queries";
import { PrintPage } from "../../parts/PrintPage";
import type { ColdItem } from "./changes";

/** The label of something that is kept: what it is, since when and until when, and what is in it. */
export default function PrintLabel() {
  const id = Number(useParams().itemId);
  const store = useQuery(coldQuery);
  const item = store.data?.kept.find((one) => one.id === id);
  const gone = store.data && !item ? new Error("This is not kept any more.") : null;
  return (
    <PrintPage problem={store.error ?? gone} back="Back to the cold store" to="/cold">
      {item && (
        <>
          <h1 className="sr-only">{item.name}: its label</h1>
          <Label item={item} />
        </>
      )}
    </PrintPage>
  );
}

/** The labels of all that is kept, or of what lies in one place, to be cut apart. */
export function PrintLabels() {
  const store = useQuery(coldQuery);
  const [params] = useSearchParams();
  const place = params.get("place");
  const items = store.data?.kept.filter((one) => place === null || one.place === place);
  const none =
    items?.length === 0 ? new Error("Nothing is kept there. Put something away first.") : null;
  return (
    <PrintPage problem={store.error ?? none} back="Back to the cold store" to="/cold">
      {items && (
        <>
          <h1 className="sr-only">Labels</h1>
          <ul className="grid grid-cols-1 gap-4 sm:grid-cols-2 print:grid-cols-2">
            {items.map((item) => (
              <li key={item.id} className="break-inside-avoid">
                <Label item={item} />
              </li>
            ))}
          </ul>
        </>
      )}
    </PrintPage>
  );
}

function Label({ item }: { item: ColdItem }) {
  return (
    <article className="w-full max-w-[24rem] border-2 border-ink bg-sheet p-4 text-lg">
      <h2 className="border-b-2 border-ink pb-1 text-2xl leading-tight font-bold">
        {item.name}
        {item.version && <span className="font-normal"> v{item.version}</span>}
      </h2>
      <p className="mt-2">
        <strong>{item.pieces}</strong>{" "}
        {item.form === "baked" ? "baked pieces" : `pieces as ${item.form_words}`}, {item.place}
      </p>
      <p>
        in since <strong>{date(item.since)}</strong>
      </p>
      <p className="text-2xl">
        use by <strong>{date(item.use_by)}</strong>
      </p>
      {item.dough_id !== null && <Contains doughId={item.dough_id} />}
      <p className="mt-1 text-[0.9375rem]">{item.advice}</p>
    </article>
  );
}

/** Its allergens, as the dough's card stands now. */
function Contains({ doughId }: { doughId: number }) {
  const dough = useQuery(doughQuery(doughId));
  return dough.data ? <Allergens dough={dough.data} /> : null;
}

function Allergens({ dough }: { dough: Dough }) {
  const study = useQuery(studyQuery(dough.card, dough.tray, dough.id));
  if (!study.data) return null;
  const { allergens } = study.data;
  return allergens.length > 0 ? (
    <p>
      <strong>{contains(allergens)}</strong>
    </p>
  ) : null;
}
