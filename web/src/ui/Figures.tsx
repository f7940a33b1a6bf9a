import styled from "styled-components";

/** A small table of figures: names to the left, numbers beside. */
export const Figures = styled.table`
  width: 100%;
  font-size: 12px;
  margin-top: 4px;
  & th { font-weight: 400; text-align: left; padding: 2px 6px 2px 0; color: ${({ theme }) => theme.ink2}; white-space: nowrap; }
  & td { font-family: ${({ theme }) => theme.mono}; text-align: right; padding: 2px 0 2px 6px; white-space: nowrap; }
  & thead td { white-space: normal; vertical-align: bottom; }
`;
