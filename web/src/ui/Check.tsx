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
  return (
    <Choices role="group" aria-label={label}>
      {items.map(({ id, words }) => (
        <Check
          key={id}
          checked={chosen.includes(id)}
          onChange={(checked) =>
            onChange(items.map((item) => item.id).filter((x) => (x === id ? checked : chosen.includes(x))))
          }
        >
          {words}
        </Check>
      ))}
    </Choices>
  );
}
