import styled from "styled-components";
import { NARROW } from "./narrow";

/** A stage's ground: panes side by side with a hairline between. */
export const StageGrid = styled.div<{ $columns: string }>`
  display: grid;
  grid-template-columns: ${({ $columns }) => $columns};
  gap: 1px;
  background: ${({ theme }) => theme.rule};
  min-height: 0;
  min-width: 0;
  height: 100%;
  ${NARROW} { grid-template-columns: minmax(0, 1fr); height: auto; }
`;

/** A pane scrolls; the page does not. */
export const Pane = styled.section.attrs({ "data-pane": true } as object)<{ $sheet?: boolean }>`
  background: ${({ theme, $sheet }) => ($sheet ? theme.sheet : theme.panel)};
  padding: 10px 12px;
  overflow: auto;
  min-height: 0;
  min-width: 0;
  position: relative;
  display: flex;
  flex-direction: column;
  /* A drawing takes the room that it finds: it is given some. */
  ${NARROW} { &:has(canvas, [role="img"], [role="application"]) { height: 560px; } }
`;

export const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  margin-bottom: 8px;
  flex: none;
  min-height: 26px;
  & > span { white-space: nowrap; }
  ${NARROW} { flex-wrap: wrap; }
`;

export const Title = styled.h2`
  font-size: 11px;
  letter-spacing: 0.02em;
  font-weight: 650;
  color: ${({ theme }) => theme.ink2};
  white-space: nowrap;
`;

export const Spacer = styled.span`
  flex: 1;
`;

export const Num = styled.span`
  font-family: ${({ theme }) => theme.mono};
  font-size: 12px;
  white-space: nowrap;
`;

export const Dim = styled.span`
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  color: ${({ theme }) => theme.ink2};
`;

/** What to do where there is nothing yet. */
export const Empty = styled.p`
  color: ${({ theme }) => theme.ink2};
  padding: 10px 0;
  max-width: 44ch;
`;

export const Kbd = styled.kbd`
  font: 600 10px ${({ theme }) => theme.mono};
  border: 1px solid ${({ theme }) => theme.rule};
  border-bottom-width: 2px;
  border-radius: 3px;
  padding: 1px 4px;
  color: ${({ theme }) => theme.ink2};
  background: ${({ theme }) => theme.sheet};
`;

/** The key that does what a button does, beside the button's own words: no part of its name. */
export const KeyHint = styled(Kbd).attrs({ "aria-hidden": true })<{ "data-key": string | number }>`
  &::before { content: attr(data-key); }
`;

/** Two things side by side, or one below the other where there is no room for that. */
export const SideBySide = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 300px), 1fr));
  gap: 14px 24px;
`;
