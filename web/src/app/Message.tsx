import type { ReactNode } from "react";
import styled from "styled-components";
import { Mark } from "./Mark";

const Room = styled.main`
  height: 100%;
  display: grid;
  place-items: center;
`;
const Card = styled.div`
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: ${({ theme }) => theme.radius};
  padding: 24px 28px;
  max-width: 52ch;
  display: flex;
  flex-direction: column;
  gap: 10px;
  & a { color: inherit; }
  & h1 { font-size: 16px; font-weight: 700; }
`;

/** A page that has only something to say. */
export function Message({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Room>
      <Card role="status">
        <Mark />
        <h1>{title}</h1>
        {children}
      </Card>
    </Room>
  );
}
