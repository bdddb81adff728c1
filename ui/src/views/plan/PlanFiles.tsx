import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, type BakingSession, body, ProblemError } from "../../api/client";
import { fileText } from "../../logic/fileText";
import { showPlan, showSession } from "../../logic/queries";
import type { Wish } from "../../logic/wish";
import { FilePress } from "../../parts/FilePress";
import { Notice } from "../../parts/Notice";

const FORMS = [
  ["ics", "Calendar", "the run sheet with an alarm for each job (iCalendar)"],
  [
    "json",
    "Session file",
    "doughs, kitchen, plan and what happened: comes back in, and for the command line",
  ],
  ["csv", "Table", "the run sheet as CSV"],
  ["md", "Markdown", "the run sheet for a notebook"],
] as const;
const MOST_BYTES = 1_000_000;

async function textOf(file: File): Promise<string> {
  if (file.size > MOST_BYTES)
    throw new ProblemError("That file is larger than 1 MB. Give out fewer days of it.", 413, []);
  return fileText(file);
}

interface PlanFilesProps {
  plan: BakingSession | null;
  wish: Wish;
  onWish: (wish: Wish) => void;
}

/** The session as open files, out and in; a calendar's busy times become times away. */
export function PlanFiles({ plan, wish, onWish }: PlanFilesProps) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const bring = useMutation({
    mutationFn: async (file: File) =>
      body(api.POST("/api/plan/bring-in", { body: { text: await textOf(file) } })),
    onSuccess: async (found) => {
      if (found.state === "planned") return showPlan(queries, found);
      // It is under way: it is baked on.
      await showSession(queries, found);
      navigate("/bake");
    },
  });
  const calendar = useMutation({
    mutationFn: async (file: File) =>
      body(api.POST("/api/plan/calendar", { body: { text: await textOf(file) } })),
    onSuccess: ({ times }) => {
      const known = new Set(wish.away.map((a) => `${a.from_at} ${a.to_at}`));
      const more = times
        .map(({ from_at, to_at }) => ({ from_at, to_at }))
        .filter((a) => !known.has(`${a.from_at} ${a.to_at}`));
      if (more.length > 0) onWish({ ...wish, away: [...wish.away, ...more] });
    },
  });
  return (
    <div className="flex flex-col gap-2">
      {plan && (
        <ul>
          {FORMS.map(([form, name, what]) => (
            <li key={form} className="flex items-center gap-4 border-b border-line py-1">
              <a
                className="press min-h-9 w-40 flex-none"
                href={`/api/sessions/${plan.id}/file?form=${form}`}
                download
              >
                {name}
              </a>
              {what}
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap gap-3">
        <FilePress accept=".json,application/json" onFile={bring.mutate}>
          Bring in a session file
        </FilePress>
        <FilePress accept=".ics,text/calendar" onFile={calendar.mutate}>
          Busy times from a calendar
        </FilePress>
      </div>
      {calendar.data && (
        <p role="status">
          {calendar.data.times.length === 1
            ? "1 busy time in the next fortnight is a time away now"
            : `${calendar.data.times.length} busy times in the next fortnight are times away now`}
          {calendar.data.left_out.length > 0 &&
            `; other entries are left out: ${calendar.data.left_out.join(", ")}`}
          .
        </p>
      )}
      <Notice problem={bring.error ?? calendar.error} />
    </div>
  );
}
