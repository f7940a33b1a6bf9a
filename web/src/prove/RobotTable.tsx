import styled from "styled-components";

export const Table = styled.table`
  border-collapse: collapse;
  font-size: 12px;
  & th { text-align: left; font-weight: 400; color: ${({ theme }) => theme.ink2}; padding: 2px 8px 2px 0; white-space: nowrap; }
  & td { padding: 2px 8px 2px 0; white-space: nowrap; }
`;
