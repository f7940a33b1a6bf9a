import styled from "styled-components";
import { Button } from "../ui/Button";
import { NARROW } from "../ui/narrow";

const Row = styled.div`
  position: fixed;
  left: 50%;
  bottom: 158px;
  transform: translateX(-50%);
  display: flex;
  gap: 12px;
  align-items: center;
  max-width: 80vw;
  padding: 8px 12px;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
  z-index: 5;
  ${NARROW} { bottom: 12px; }
`;

/** One sentence over the page until it is put away. */
export function Notice({ text, onClose }: { text: string; onClose: () => void }) {
  return (
    <Row role="status" aria-label="Notice">
      <span>{text}</span>
      <Button $small onPress={onClose}>
        OK
      </Button>
    </Row>
  );
}
