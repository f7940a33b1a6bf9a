import { Component, type ReactNode } from "react";
import styled from "styled-components";
import { Button } from "../ui/Button";

const Room = styled.div`
  min-height: 0;
  padding: 20px;
  overflow: auto;
  display: flex;
  flex-direction: column;
  align-items: start;
  gap: 8px;
  background: ${({ theme }) => theme.panel};
`;

interface PartTroubleProps {
  /** What it is a part of the page: “Decide”, “The tape”. */
  of: string;
  children: ReactNode;
}

/** Stands in for a part of the page that breaks: it says so, and all else goes on. */
export class PartTrouble extends Component<PartTroubleProps, { wrong: string | null }> {
  override state: { wrong: string | null } = { wrong: null };

  static getDerivedStateFromError(error: unknown) {
    return { wrong: error instanceof Error ? error.message : String(error) };
  }

  override render() {
    const { wrong } = this.state;
    if (wrong === null) return this.props.children;
    return (
      <Room role="alert">
        <p>
          {this.props.of} cannot be shown: {wrong}.
        </p>
        <p>What you changed is kept, and the rest of the page goes on.</p>
        <Button onPress={() => this.setState({ wrong: null })}>Show it again</Button>
      </Room>
    );
  }
}
