import { Notice } from "../../parts/Notice";
import { DoughEditor } from "./DoughEditor";
import { DoughList } from "./DoughList";
import { useDough, useWords } from "./queries";

export function DoughView({ doughId }: { doughId?: number }) {
  return (
    <div className="grid flex-1 grid-cols-[13rem_1fr] max-lg:grid-cols-1">
      <DoughList current={doughId} />
      {doughId ? <OneDough id={doughId} /> : <Welcome />}
    </div>
  );
}

function Welcome() {
  return (
    <section className="max-w-xl p-8">
      <h1 className="text-3xl font-bold">Which dough?</h1>
      <p className="mt-3 text-lg">
        Take one from the list, or start one: write its card line by line and see it in grams and
        percent, then portion it, plan the trays, bake and write down what came out.
      </p>
    </section>
  );
}

function OneDough({ id }: { id: number }) {
  const dough = useDough(id);
  const words = useWords();
  const problem = dough.error ?? words.error;
  if (problem) {
    return (
      <div className="p-8">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!dough.data || !words.data) return <p className="p-8 text-soft">One moment…</p>;
  return <DoughEditor key={id} dough={dough.data} words={words.data} />;
}
