// Catches what breaks in a room, or could not be loaded, and says what to do. It ends when somebody goes elsewhere.

import { Component, type ReactNode } from "react";

interface Props {
  /** Where it happened: at another place all is well again. */
  at: string;
  children: ReactNode;
}

export class ErrorBoundary extends Component<Props, { at: string | null }> {
  override state = { at: null };

  static getDerivedStateFromError(): { at: string | null } {
    return { at: window.location.pathname };
  }

  override componentDidUpdate({ at }: Props): void {
    if (this.state.at !== null && at !== this.props.at) this.setState({ at: null });
  }

  override render(): ReactNode {
    return this.state.at === null ? this.props.children : <Broken />;
  }
}

function Broken() {
  return (
    <div className="sheet p-8 max-w-xl" role="alert">
      <h1 className="text-2xl font-semibold mb-2">This page could not be shown</h1>
      <p className="mb-4">
        The server may be away, or have been renewed since the page was opened. What was typed is kept.
      </p>
      <button type="button" className="btn btn-primary btn-sm" onClick={() => window.location.reload()}>
        Load it again
      </button>
    </div>
  );
}
