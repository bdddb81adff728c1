import { useQuery } from "@tanstack/react-query";
import { doughQuery, wordsQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { Drawer } from "./Drawer";
import { Workbench } from "./Workbench";

export default function DoughView({ doughId }: { doughId?: number }) {
  return doughId ? <OneDough id={doughId} /> : <Drawer />;
}

function OneDough({ id }: { id: number }) {
  const dough = useQuery(doughQuery(id));
  const words = useQuery(wordsQuery);
  const problem = dough.error ?? words.error;
  // What is being typed stays there, whatever a later look brings.
  if (problem && !(dough.data && words.data)) {
    return (
      <div className="p-8">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!dough.data || !words.data) return <p className="p-8 text-soft">One moment…</p>;
  return <Workbench key={id} dough={dough.data} words={words.data} />;
}
