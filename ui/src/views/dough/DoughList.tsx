import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { api, body } from "../../api/client";
import { grams } from "../../app/format";
import { Notice } from "../../parts/Notice";
import { useDoughs } from "./queries";

/** The doughs in the drawer, the one changed last on top. */
export function DoughList({ current }: { current: number | undefined }) {
  const doughs = useDoughs();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const start = useMutation({
    mutationFn: () =>
      body(
        api.POST("/api/doughs", {
          body: { name: "New dough", family: "drop", mixing: "creamed", lines: [] },
        }),
      ),
    onSuccess: async (dough) => {
      await queries.invalidateQueries({ queryKey: ["doughs"] });
      navigate(`/dough/${dough.id}`);
    },
  });

  return (
    <aside
      aria-label="Doughs"
      className="border-r border-line bg-wash/50 max-lg:border-r-0 max-lg:border-b"
    >
      <div className="flex items-center justify-between gap-2 px-4 py-3">
        <h2 className="text-lg font-bold">Doughs</h2>
        <button type="button" className="press min-h-9 px-3" onClick={() => start.mutate()}>
          Start one
        </button>
      </div>
      <Notice problem={doughs.error ?? start.error} />
      {doughs.data?.length === 0 && <p className="px-4 pb-4 text-soft">None yet.</p>}
      <ul className="max-lg:flex max-lg:gap-2 max-lg:overflow-x-auto max-lg:px-4 max-lg:pb-3">
        {doughs.data?.map((dough) => (
          <li key={dough.id}>
            <Link
              to={`/dough/${dough.id}`}
              aria-current={dough.id === current ? "page" : undefined}
              className="block border-l-4 border-transparent px-3 py-2 leading-snug hover:bg-wash aria-[current=page]:border-ink aria-[current=page]:bg-sheet aria-[current=page]:font-semibold max-lg:w-44"
            >
              {dough.name}
              <span className="block text-[0.9375rem] font-normal text-soft">
                {dough.lines === 0 ? "no lines yet" : `${grams(dough.total_g)} g`}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </aside>
  );
}
