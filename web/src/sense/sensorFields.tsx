import styled from "styled-components";

export const Line = styled.label`
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
`;

export const Text = styled.input`
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: 2px;
  padding: 4px 6px;
  background: ${({ theme }) => theme.sheet};
  min-width: 0;
`;

export const Group = styled.fieldset`
  border: 0;
  margin: 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 5px;
  min-width: 0;
  & legend { padding: 0 0 4px; color: ${({ theme }) => theme.ink2}; font-size: 11px; font-weight: 650; }
`;
