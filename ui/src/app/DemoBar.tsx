import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { api, body } from "../api/client";
import { serverNow, setClock } from "../logic/clock";
import { clock } from "../logic/format";
import { aboutQuery, currentSessionQuery, showSession } from "../logic/queries";

const TICK_MS = 5000;
const STEPS = [1, 5, 15] as const;

/** In the demo: what it is, a bake to look at, and a clock that goes on as fast as one likes. */
export function DemoBar() {
  const about = useQuery(aboutQuery);
  return about.data?.demo ? <Bar backTo={about.data.back_to} /> : null;
}

function Bar({ backTo }: { backTo: string | null }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const session = useQuery(currentSessionQuery).data;
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  const see = useMutation({
    mutationFn: () => body(api.POST("/api/demo/under-way")),
    onSuccess: async (begun) => {
      await showSession(queries, begun);
      navigate("/bake");
    },
  });
  const putOn = useMutation({
    mutationFn: (minutes: number) => body(api.POST("/api/demo/clock", { body: { minutes } })),
    onSuccess: (shown) => {
      setClock(shown.now);
      return queries.invalidateQueries();
    },
  });
  return (
    <section
      aria-label="The demo"
      className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-wash px-5 py-1 text-[0.9375rem] max-sm:px-3 print:hidden"
    >
      <span>
        <strong>Demo</strong>, made up; it is <strong>{clock(serverNow())}</strong>
      </span>
      <span className="flex items-center gap-1">
        {STEPS.map((minutes) => (
          <button
            key={minutes}
            type="button"
            className="press min-h-8 px-2"
            onClick={() => putOn.mutate(minutes)}
          >
            {minutes} min on
          </button>
        ))}
      </span>
      {session?.state !== "running" && (
        <button
          type="button"
          className="press min-h-8 px-2"
          disabled={see.isPending}
          onClick={() => see.mutate()}
        >
          See a bake under way
        </button>
      )}
      {backTo && (
        <a href={backTo} className="press min-h-8 px-2">
          Back to my own kitchen
        </a>
      )}
      <span role="status" className="text-caution">
        {see.error?.message ?? putOn.error?.message}
      </span>
    </section>
  );
}
