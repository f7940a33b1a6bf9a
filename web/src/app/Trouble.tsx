import { Component, type ReactNode } from "react";
import { Button } from "../ui/Button";
import { Message } from "./Message";

/** Stands in for the page when a part of it fails, and says what is kept and what to do. */
export class Trouble extends Component<{ children: ReactNode }, { wrong: string | null }> {
  override state: { wrong: string | null } = { wrong: null };

  static getDerivedStateFromError(error: unknown) {
    return { wrong: error instanceof Error ? error.message : String(error) };
  }

  override render() {
    const { wrong } = this.state;
    if (wrong === null) return this.props.children;
    return (
      <Message title="Something went wrong">
        <p>A part of it failed: {wrong}.</p>
        <p>
          What you changed is kept: it was sent to the server, or it waits in this browser and is offered when the
          project is opened again.
        </p>
        <div>
          <Button $main onPress={() => location.reload()}>
            Load the page again
          </Button>
        </div>
        <a href="/?list">Go to the projects</a>
      </Message>
    );
  }
}
