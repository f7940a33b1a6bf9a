import type { ReactNode } from "react";
import { Dialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: rgb(0 0 0 / 35%);
  display: grid;
  place-items: center;
  z-index: 10;
`;
const Card = styled(Modal)<{ $wide: boolean }>`
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
  box-shadow: 0 8px 30px rgb(0 0 0 / 25%);
  width: min(${({ $wide }) => ($wide ? 760 : 460)}px, 92vw);
  max-height: 86vh;
  overflow: auto;
`;
const Body = styled(Dialog)`
  padding: 16px 18px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  outline: none;
`;
const Name = styled(Heading)`
  font-size: 15px;
  font-weight: 700;
`;

/**
 * A sheet over the page. Escape closes it unless an answer is needed; a press beside it does not: typing would be lost.
 */
export function Sheet(props: {
  title: string;
  wide?: boolean;
  isOpen: boolean;
  onClose?: () => void;
  children: ReactNode;
}) {
  const { title, wide = false, isOpen, onClose, children } = props;
  return (
    <Veil
      isOpen={isOpen}
      isKeyboardDismissDisabled={onClose === undefined}
      onOpenChange={(open) => !open && onClose?.()}
    >
      <Card $wide={wide}>
        <Body>
          <Name slot="title">{title}</Name>
          {children}
        </Body>
      </Card>
    </Veil>
  );
}

/** The buttons by which a sheet is left: they stay in view however long it is. */
export const SheetButtons = styled.div`
  display: flex;
  gap: 8px;
  justify-content: flex-end;
  flex-wrap: wrap;
  position: sticky;
  bottom: 0;
  margin: 0 -18px -16px;
  padding: 8px 18px 14px;
  background: ${({ theme }) => theme.sheet};
`;
