import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, body } from "../../api/client";
import { basesQuery, KEYS, wordsQuery } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { ON_RULER, OnRuler, scaleOf } from "./OnRuler";

/** The doughs that ship, on the same ruler: one press begins one's own from any of them. */
export function BaseDoughs() {
  const bases = useQuery(basesQuery);
  const words = useQuery(wordsQuery);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const begin = useMutation({
    mutationFn: (key: string) =>
      body(api.POST("/api/base-doughs/{key}", { params: { path: { key } } })),
    onSuccess: async (dough) => {
      await queries.invalidateQueries({ queryKey: KEYS.doughs });
      navigate(`/dough/${dough.id}`);
    },
  });
  if (!bases.data) return <Notice problem={bases.error} />;
  const scale = scaleOf(bases.data.map(({ drawn }) => drawn));
  return (
    <section aria-label="Base doughs">
      <h2 className="heading">
        Begin with one of these
        <span className="text-[0.9375rem] font-normal text-soft">
          as they are foreseen in your kitchen; each has its card, its method and its tray
        </span>
      </h2>
      <Notice problem={begin.error} />
      <ul className={ON_RULER}>
        {bases.data.map(({ key, drawn }) => (
          <li key={key} className="min-w-0">
            <OnRuler piece={drawn.piece} scale={scale} />
            <div className="px-2.5 pb-1">
              <strong className="block text-lg break-words">{drawn.name}</strong>
              <span className="block text-[0.9375rem] text-soft">
                {words.data?.families.find((f) => f.key === drawn.family)?.label}
              </span>
              <button
                type="button"
                className="press mt-1 min-h-9"
                aria-label={`Begin with ${drawn.name}`}
                disabled={begin.isPending}
                onClick={() => begin.mutate(key)}
              >
                Begin with it
              </button>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
