import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type BakingSession, body, type Schemas } from "../../api/client";
import { when } from "../../logic/format";
import { currentSessionQuery, KEYS, keptSessionsQuery, threwAway } from "../../logic/queries";
import { Notice } from "../../parts/Notice";
import { KeepAs } from "./KeepAs";

type Kept = Schemas["SessionAgain"];

interface SessionsAgainProps {
  plan: BakingSession | null;
  now: number;
  onAgain: (kept: Kept) => void;
}

/** Sessions that come again: each with its doughs, counts and hours, on its weekday. */
export function SessionsAgain({ plan, now, onAgain }: SessionsAgainProps) {
  const kept = useQuery(keptSessionsQuery);
  // What is baked, or was last, can be kept as well: it is known by then whether it was good.
  const current = useQuery(currentSessionQuery);
  const session = plan ?? current.data;
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries({ queryKey: KEYS.keptSessions });
  const drop = useMutation({
    mutationFn: (kept_id: number) =>
      body(api.DELETE("/api/sessions-to-plan/{kept_id}", { params: { path: { kept_id } } })),
    onSuccess: (thrown) => {
      threwAway(queries, thrown);
      return onSuccess();
    },
  });
  return (
    <div className="flex flex-col gap-3">
      <Notice problem={kept.error ?? drop.error} />
      {(kept.data ?? []).length > 0 && (
        <ul aria-label="Sessions to plan again">
          {(kept.data ?? []).map((one) => (
            <li
              key={one.id}
              className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5"
            >
              <strong className="text-lg wrap-anywhere">{one.name}</strong>
              <span className="mr-auto min-w-0 text-soft">{saidOf(one, now)}</span>
              <button
                type="button"
                className="press min-h-9"
                disabled={one.doughs.length === 0}
                onClick={() => onAgain(one)}
              >
                Plan it again
              </button>
              <button
                type="button"
                className="icon-press"
                aria-label={`Keep ${one.name} no longer`}
                onClick={() => drop.mutate(one.id)}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      {session && (
        <KeepAs
          key={session.id}
          session={session}
          of="session"
          keep={(asked) => body(api.POST("/api/sessions-to-plan", { body: asked }))}
          onKept={onSuccess}
        />
      )}
      {!session && kept.data?.length === 0 && (
        <p className="text-soft">
          Plan a session, and keep it here under a name: its doughs, counts and hours come back by
          one press.
        </p>
      )}
    </div>
  );
}

/** Its doughs, and when it would be. */
function saidOf(one: Kept, now: number): string {
  if (one.doughs.length === 0) return "Its doughs are there no more. Put them back from the bin.";
  const { ready_by, start_at } = one.next;
  const at = ready_by
    ? `ready ${when(ready_by, now)}`
    : start_at
      ? `from ${when(start_at, now)} on`
      : "from now on";
  return `${one.doughs.join(", ")}; ${at}`;
}
