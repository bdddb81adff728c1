import { Link } from "react-router";
import { Notice } from "./Notice";

interface PrintPageProps {
  problem: Error | null;
  /** Where it was asked for: the words of the way back, and its address. */
  back: string;
  to: string;
  /** Whether it is more than one page. */
  several?: boolean;
  /** The page; nothing while it is being asked for. */
  children: React.ReactNode;
}

/** What stands where a page will, or cannot, be. */
export function Waiting({ problem }: { problem: Error | null }) {
  return (
    <div className="p-8">
      {problem ? <Notice problem={problem} /> : <p className="text-soft">One moment…</p>}
    </div>
  );
}

/** One page for the wall or the bench, with a button to print it and a way back. */
export function PrintPage({ problem, back, to, several, children }: PrintPageProps) {
  if (problem || !children) return <Waiting problem={problem} />;
  return (
    <div className="mx-auto w-full max-w-3xl p-6 print:max-w-none print:p-0">
      <div className="mb-4 flex gap-3 print:hidden">
        <button type="button" className="press press-main" onClick={() => window.print()}>
          {several ? "Print all of it, or keep it as a PDF" : "Print this page"}
        </button>
        <Link className="press" to={to}>
          {back}
        </Link>
      </div>
      {children}
    </div>
  );
}
