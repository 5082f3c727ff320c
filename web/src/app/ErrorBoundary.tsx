// Catches what breaks in a room, or could not be loaded, and says what to do. It ends when somebody goes elsewhere; what could
// not be loaded is loaded by itself once the server answers again.

import { Component, type ReactNode, useEffect } from "react";
import { ofTab } from "../parts/browserStore";

const AGAIN = 3000;
const LAST = "potrel/loaded-again";
// A page that cannot be loaded though the server answers is not tried over and over.
const SELDOM = 30_000;

interface Props {
  /** Where it happened: at another place all is well again. */
  at: string;
  children: ReactNode;
}

interface State {
  at: string | null;
  unloaded: boolean;
}

export class ErrorBoundary extends Component<Props, State> {
  override state: State = { at: null, unloaded: false };

  static getDerivedStateFromError(error: unknown): State {
    // As browsers say it of a module that did not come.
    const unloaded = /dynamically imported module|importing a module|module script/i.test(String(error));
    return { at: window.location.pathname, unloaded };
  }

  override componentDidUpdate({ at }: Props): void {
    if (this.state.at !== null && at !== this.props.at) this.setState({ at: null, unloaded: false });
  }

  override render(): ReactNode {
    return this.state.at === null ? this.props.children : <Broken unloaded={this.state.unloaded} />;
  }
}

function Broken({ unloaded }: { unloaded: boolean }) {
  useEffect(() => {
    if (!unloaded) return;
    const timer = setInterval(async () => {
      const last = Number(ofTab.get(LAST) ?? 0);
      const there = await fetch("/api/kitchen").catch(() => null);
      if (!there?.ok || Date.now() - last < SELDOM) return;
      ofTab.put(LAST, String(Date.now()));
      window.location.reload();
    }, AGAIN);
    return () => clearInterval(timer);
  }, [unloaded]);
  return (
    <div className="sheet p-8 max-w-xl" role="alert">
      <h1 className="text-2xl font-semibold mb-2">This page could not be shown</h1>
      <p className="mb-4">
        The server may be away, or have been renewed since the page was opened. What was typed is kept.
        {unloaded && " The page comes by itself as soon as the server answers."}
      </p>
      <button type="button" className="btn btn-primary btn-sm" onClick={() => window.location.reload()}>
        Load it again
      </button>
    </div>
  );
}
