import { ProblemError } from "../api/client";

/** What went wrong and what to do, said where it happened. */
export function Notice({
  problem,
  children,
}: {
  problem: Error | null | undefined;
  children?: React.ReactNode;
}) {
  if (!problem) return null;
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-3 border-l-4 border-caution bg-sheet px-3 py-2"
    >
      <p>
        <strong className="text-caution">{label(problem)}</strong> {problem.message}
      </p>
      {children}
    </div>
  );
}

const label = (problem: Error): string =>
  problem instanceof ProblemError && problem.status === 422 ? "Check this:" : "Not done:";
