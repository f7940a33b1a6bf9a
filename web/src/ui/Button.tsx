import type { ComponentProps, ComponentType } from "react";
import { Button as AriaButton, ToggleButton, ToggleButtonGroup, Tooltip, TooltipTrigger } from "react-aria-components";
import styled, { css } from "styled-components";

const shape = css`
  border: 1px solid ${({ theme }) => theme.edge};
  background: ${({ theme }) => theme.sheet};
  border-radius: ${({ theme }) => theme.radius};
  padding: 4px 9px;
  min-width: 24px;
  min-height: 26px;
  line-height: 16px;
  cursor: default;
  white-space: nowrap;
  /* Words that do not wrap must not stick out of it. */
  flex-shrink: 0;
  &[data-hovered] { border-color: ${({ theme }) => theme.ink3}; }
  &[data-pressed] { background: ${({ theme }) => theme.pressed}; }
  &[data-disabled] { color: ${({ theme }) => theme.ink3}; border-style: dashed; }
`;

/** What a button that cannot be pressed says, to those who point at it or come to it by keyboard. */
const Reason = styled(Tooltip)`
  max-width: 280px;
  padding: 4px 8px;
  font-size: 12px;
  background: ${({ theme }) => theme.ink};
  color: ${({ theme }) => theme.sheet};
  border-radius: ${({ theme }) => theme.radius};
`;

type Face = ComponentProps<typeof AriaButton> & { $main?: boolean; $small?: boolean };
/** `why` is the reason why it cannot be pressed now; without one it can. */
type Reasoned = Face & { why?: string | false };

/** A button that, as long as there is a reason why it cannot be pressed, can be come to and says it. */
function reasoned(Look: ComponentType<Face>): (props: Reasoned) => React.ReactElement {
  return ({ why = false, ...props }) => {
    const stopped: Partial<Face> = {
      onPress: undefined,
      render: (dom) => <button {...dom} type="button" aria-disabled data-disabled aria-description={String(why)} />,
    };
    return (
      <TooltipTrigger isDisabled={why === false} delay={300}>
        <Look {...props} {...(why !== false && stopped)} />
        {why !== false && <Reason offset={6}>{why}</Reason>}
      </TooltipTrigger>
    );
  };
}

/** A press that does something. `$main` is the one that the screen is for. */
export const Button = reasoned(styled(AriaButton)<{ $main?: boolean; $small?: boolean }>`
  ${shape}
  ${({ $small }) => $small && css`padding: 1px 6px; min-height: 24px;`}
  ${({ $main, theme }) =>
    $main &&
    css`
      background: ${theme.ink};
      color: ${theme.sheet};
      border-color: ${theme.ink};
      &[data-pressed] { background: ${theme.ink2}; }
      &[data-disabled] { background: ${theme.panel}; }
    `}
`);

/** A button without a frame, for signs in a row. */
export const QuietButton = styled(AriaButton)`
  border: 0;
  background: none;
  padding: 2px 5px;
  min-width: 24px;
  min-height: 24px;
  border-radius: 2px;
  color: ${({ theme }) => theme.ink2};
  cursor: default;
  &[data-hovered] { background: ${({ theme }) => theme.pressed}; color: ${({ theme }) => theme.ink}; }
  &[data-disabled] { color: ${({ theme }) => theme.rule}; }
`;

const Group = styled(ToggleButtonGroup)`
  display: flex;
  gap: 4px;
`;
const Toggle = styled(ToggleButton)`
  ${shape}
  &[data-selected] { background: ${({ theme }) => theme.pressed}; border-color: ${({ theme }) => theme.ink}; font-weight: 600; }
`;

/** One of a few choices, all of them visible. */
export function Choice<T extends string>(props: {
  label: string;
  value: T;
  options: readonly { id: T; text: string }[];
  onChange: (value: T) => void;
}) {
  const { label, value, options, onChange } = props;
  return (
    <Group
      aria-label={label}
      selectionMode="single"
      disallowEmptySelection
      selectedKeys={[value]}
      onSelectionChange={(keys) => onChange([...keys][0] as T)}
    >
      {options.map(({ id, text }) => (
        <Toggle key={id} id={id}>
          {text}
        </Toggle>
      ))}
    </Group>
  );
}
