import { Component, type ReactNode } from "react";

interface CaughtProps {
  /** What is shown where something below breaks; `again` shows that once more. */
  instead: (wrong: string, again: () => void) => ReactNode;
  children: ReactNode;
}

/** Catches what breaks below it. */
export class Caught extends Component<CaughtProps, { wrong: string | null }> {
  override state: { wrong: string | null } = { wrong: null };

  static getDerivedStateFromError(error: unknown) {
    return { wrong: error instanceof Error ? error.message : String(error) };
  }

  override render() {
    const { wrong } = this.state;
    const { instead, children } = this.props;
    return wrong === null ? children : instead(wrong, () => this.setState({ wrong: null }));
  }
}
