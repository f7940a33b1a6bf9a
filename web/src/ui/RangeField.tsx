import { useId } from "react";
import styled from "styled-components";
import { Num } from "./layout";

const Row = styled.div`
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr) 62px;
  gap: 8px;
  align-items: center;
  min-height: 24px;
  & label { color: ${({ theme }) => theme.ink2}; }
  & input { width: 100%; min-width: 0; accent-color: ${({ theme }) => theme.ink}; filter: grayscale(1); }
  & > :last-child { text-align: right; }
`;

/** A number set by sliding, or by the arrow keys. */
export function RangeField(props: {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  unit: string;
  shown?: (value: number) => string;
  onChange: (value: number) => void;
}) {
  const { label, value, min, max, step, unit, shown = String, onChange } = props;
  const id = useId();
  return (
    <Row>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        type="range"
        min={min}
        max={max}
        step={step}
        value={value}
        aria-valuetext={`${shown(value)} ${unit}`}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <Num>
        {shown(value)} {unit}
      </Num>
    </Row>
  );
}
