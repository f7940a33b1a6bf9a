import { useProgressBar } from "react-aria/useProgressBar";
import styled from "styled-components";
import { Button } from "./Button";
import { Num } from "./layout";

const Row = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
`;
const Track = styled.div`
  flex: 1;
  height: 8px;
  background: ${({ theme }) => theme.ruleSoft};
  & > i { display: block; height: 100%; background: ${({ theme }) => theme.ink}; }
`;

/** How far long work is, how long it will probably take, and a way to end it. */
export function ProgressBar(props: { label: string; share: number; began: number; onCancel: () => void }) {
  const { label, share, began, onCancel } = props;
  const passed = performance.now() - began;
  const left = share > 0.02 ? Math.ceil((passed / share - passed) / 1000) : undefined;
  const { progressBarProps } = useProgressBar({ "aria-label": label, value: Math.round(share * 100) });
  return (
    <Row>
      <Track {...progressBarProps}>
        <i style={{ width: `${share * 100}%` }} />
      </Track>
      <Num>
        {Math.round(share * 100)} %{left !== undefined && `, about ${left} s`}
      </Num>
      <Button $small onPress={onCancel}>
        Cancel
      </Button>
    </Row>
  );
}
