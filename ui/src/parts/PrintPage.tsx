import { Link } from "react-router";
import { Notice } from "./Notice";

interface PrintPageProps {
  problem: Error | null;
  /** Where it was asked for: the words of the way back, and its address. */
  back: string;
  to: string;
  /** The page; nothing while it is being asked for. */
  children: React.ReactNode;
}

/** One page for the wall or the bench, with a button to print it and a way back. */
export function PrintPage({ problem, back, to, children }: PrintPageProps) {
  if (problem) {
    return (
      <div className="p-8">
        <Notice problem={problem} />
      </div>
    );
  }
  if (!children) return <p className="p-8 text-soft">One moment…</p>;
  return (
    <div className="mx-auto w-full max-w-3xl p-6 print:max-w-none print:p-0">
      <div className="mb-4 flex gap-3 print:hidden">
        <button type="button" className="press press-main" onClick={() => window.print()}>
          Print this page
        </button>
        <Link className="press" to={to}>
          {back}
        </Link>
      </div>
      {children}
    </div>
  );
}
