import { Link, useNavigate } from "react-router";
import type { Tray } from "../../api/client";
import { trayInWords, word } from "../../logic/trayWords";
import { useBakeNow } from "../../parts/useBakeNow";

/** How to lay the fullest sheet out, in words, and the next step. */
export function TraySentence({ doughId, tray }: { doughId: number; tray: Tray }) {
  const others = tray.also.reduce((sum, { trays: theirs }) => sum + theirs.length, 0);
  const trays = tray.yields.trays.length + others;
  const what = tray.says.holder;
  const navigate = useNavigate();
  const now = useBakeNow();
  return (
    <div className="mt-1 flex flex-wrap items-center justify-end gap-x-4 gap-y-2 border-t border-ink pt-3">
      <p className="min-w-64 flex-1 text-lg">{trayInWords(tray)}</p>
      {now.error && <p className="max-w-56 text-caution">{now.error.message}</p>}
      <button
        type="button"
        className="press min-h-12 flex-none"
        disabled={now.isPending}
        onClick={() => now.mutate(doughId, { onSuccess: () => navigate("/bake") })}
      >
        Bake one {what} now
      </button>
      <Link to={`/plan/${doughId}`} className="press press-main min-h-12 flex-none text-lg">
        Plan {trays === 1 ? `this ${what}` : `these ${word(trays)} ${what}s`}
      </Link>
    </div>
  );
}
