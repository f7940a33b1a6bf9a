import type { ReactNode } from "react";
import styled from "styled-components";
import { Button } from "../ui/Button";
import { Caught } from "./Caught";

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

/** Stands in for a part of the page that breaks, such as “Decide” or “The tape”: it says so, and all else goes on. */
export function PartTrouble({ of, children }: { of: string; children: ReactNode }) {
  return (
    <Caught
      instead={(wrong, again) => (
        <Room role="alert">
          <p>
            {of} cannot be shown: {wrong}.
          </p>
          <p>What you changed is kept, and the rest of the page goes on.</p>
          <Button onPress={again}>Show it again</Button>
        </Room>
      )}
    >
      {children}
    </Caught>
  );
}
