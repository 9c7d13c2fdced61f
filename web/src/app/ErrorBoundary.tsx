import { Component } from "react";
import type { ReactNode } from "react";

import { Button } from "../ui/Button";

interface Props {
  children: ReactNode;
}

/** Says so where a screen fails to be drawn, in place of an empty page. What was kept stays kept. */
export class Boundary extends Component<Props, { failed: string | null }> {
  override state: { failed: string | null } = { failed: null };

  static getDerivedStateFromError(error: unknown) {
    return { failed: error instanceof Error ? error.message : String(error) };
  }

  override render() {
    if (this.state.failed === null) return this.props.children;
    return (
      <main className="mx-auto max-w-md space-y-4 p-10" role="alert">
        <h1 className="text-xl font-semibold">This screen could not be drawn</h1>
        <p>Every change that was kept is kept. Load the page again to go on.</p>
        <p className="text-soft">{this.state.failed}</p>
        <Button main onClick={() => window.location.reload()}>
          Load it again
        </Button>
      </main>
    );
  }
}
