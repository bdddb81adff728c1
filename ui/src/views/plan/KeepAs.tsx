import { useMutation } from "@tanstack/react-query";
import type { BakingSession, Schemas } from "../../api/client";
import { Notice } from "../../parts/Notice";
import { useRemembered } from "../../parts/useRemembered";

interface KeepAsProps {
  session: BakingSession;
  /** What of it is kept. */
  of: "occasion" | "session";
  keep: (asked: Schemas["KeepBody"]) => Promise<{ name: string }>;
  onKept: () => void;
}

/** A session, or what it is for, is kept under a name. */
export function KeepAs({ session, of, keep, onKept }: KeepAsProps) {
  const [name, setName] = useRemembered(
    `${of} name ${session.id}`,
    (of === "occasion" ? session.wish?.occasion?.name : null) ?? session.wish?.name ?? "",
  );
  const kept = useMutation({
    mutationFn: () => keep({ session_id: session.id, name: name.trim() }),
    onSuccess: onKept,
  });
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        kept.mutate();
      }}
    >
      <label className="flex max-w-full flex-col">
        <span className="text-[0.9375rem] wrap-anywhere text-soft">
          Keep {session.name} for next time, as
        </span>
        <input
          className="w-64 max-sm:w-full"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <button type="submit" className="press min-h-9" disabled={!name.trim() || kept.isPending}>
        Keep it
      </button>
      <span role="status">{kept.isSuccess && `Kept as ${kept.data.name}.`}</span>
      <Notice problem={kept.error} />
    </form>
  );
}
