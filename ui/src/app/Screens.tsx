import { Component, useState } from "react";
import { Link, useLocation } from "react-router";
import { forgetAll } from "../logic/remembered";
import { useCalled } from "./Alarms";
import { useOpened, useTitle } from "./useOpened";

const FAILED = "finebatch.failed";

interface SafeProps {
  children: React.ReactNode;
  /** Another one of these is another chance for what failed. */
  at?: string;
  /** What stands in its place when it cannot be shown. */
  instead: (error: Error) => React.ReactNode;
}

/** Something that may fail without taking the rest of the page with it. */
export class Safe extends Component<SafeProps, { error: Error | null }> {
  override state: { error: Error | null } = { error: null };

  static getDerivedStateFromError(error: unknown) {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  override componentDidUpdate(before: SafeProps) {
    if (this.state.error && before.at !== this.props.at) this.setState({ error: null });
  }

  override render() {
    return this.state.error ? this.props.instead(this.state.error) : this.props.children;
  }
}

/** The screens: one that cannot be fetched, or that fails, leaves the header and can be tried again. */
export function Screens({ children }: { children: React.ReactNode }) {
  const { pathname } = useLocation();
  useOpened(pathname);
  useTitle(pathname, useCalled());
  return (
    <Safe at={pathname} instead={(error) => <Failed error={error} />}>
      {children}
    </Safe>
  );
}

function Failed({ error }: { error: Error }) {
  const [away, setAway] = useState(false);
  // The page is only loaded anew once the server answers, or the header would be gone as well.
  const again = () => {
    // What was typed may be what it fails over: the second time it goes without.
    if (sessionStorage.getItem(FAILED) === location.pathname) forgetAll();
    sessionStorage.setItem(FAILED, location.pathname);
    return fetch(location.href, { cache: "no-store" }).then(
      (answer) => (answer.ok ? location.reload() : setAway(true)),
      () => setAway(true),
    );
  };
  return (
    <section role="alert" className="flex max-w-2xl flex-col items-start gap-4 p-8 max-sm:p-4">
      <h1 className="text-3xl font-bold">This screen cannot be shown.</h1>
      <p className="text-lg">
        {away
          ? "Fine Batch does not answer. Start it where it ran, then try again."
          : "It could not be fetched, or something in it went wrong. What was kept is safe."}
      </p>
      <p className="flex flex-wrap gap-3">
        <button type="button" className="press press-main min-h-12 text-lg" onClick={again}>
          Try again
        </button>
        <Link to="/dough" className="press min-h-12 text-lg">
          All doughs
        </Link>
      </p>
      <p className="text-[0.9375rem] text-soft">{error.message}</p>
    </section>
  );
}
