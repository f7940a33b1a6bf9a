import { useRef } from "react";
import { useCheckboxGroup, useCheckboxGroupItem } from "react-aria/useCheckboxGroup";
import { type CheckboxGroupState, useCheckboxGroupState } from "react-stately/useCheckboxGroupState";
import styled from "styled-components";

const Box = styled.input.attrs({ type: "checkbox" })`
  accent-color: ${({ theme }) => theme.ink};
  margin: 0;
  flex: none;
`;
const Words = styled.label`
  display: inline-flex;
  gap: 5px;
  align-items: center;
  min-height: 24px;
`;
const Choices = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
`;

/** A box to tick: with words beside it, or with a label that only screen readers tell. */
export function Check(
  props: { checked: boolean; onChange: (checked: boolean) => void } & (
    | { children: React.ReactNode; label?: never }
    | { label: string; children?: never }
  ),
) {
  const { checked, onChange, label, children } = props;
  const box = <Box aria-label={label} checked={checked} onChange={(event) => onChange(event.target.checked)} />;
  return children === undefined ? (
    box
  ) : (
    <Words>
      {box} {children}
    </Words>
  );
}

/** Boxes of which any may be ticked. What is chosen keeps the order of the items. */
export function CheckGroup<T extends string>(props: {
  label: string;
  items: readonly { id: T; words: React.ReactNode }[];
  chosen: readonly T[];
  onChange: (chosen: T[]) => void;
}) {
  const { label, items, chosen, onChange } = props;
  const group = {
    "aria-label": label,
    value: [...chosen],
    onChange: (ids: string[]) => onChange(items.map(({ id }) => id).filter((id) => ids.includes(id))),
  };
  const state = useCheckboxGroupState(group);
  const { groupProps } = useCheckboxGroup(group, state);
  return (
    <Choices {...groupProps}>
      {items.map(({ id, words }) => (
        <OneOf key={id} id={id} state={state}>
          {words}
        </OneOf>
      ))}
    </Choices>
  );
}

function OneOf({ id, state, children }: { id: string; state: CheckboxGroupState; children: React.ReactNode }) {
  const box = useRef<HTMLInputElement>(null);
  const { inputProps, labelProps } = useCheckboxGroupItem({ value: id, children }, state, box);
  return (
    <Words {...labelProps}>
      <Box {...inputProps} ref={box} /> {children}
    </Words>
  );
}
