import styled from "styled-components";

/** A label with its field beside it. */
export const LabelledRow = styled.label`
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
`;

/** Fields that belong together under one heading. */
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
