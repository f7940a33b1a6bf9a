import { Select as AriaSelect, Button, Label, ListBox, ListBoxItem, Popover, SelectValue } from "react-aria-components";
import styled from "styled-components";

const Root = styled(AriaSelect)`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
  max-width: 100%;
`;
const Caption = styled(Label)`
  color: ${({ theme }) => theme.ink2};
`;
const Face = styled(Button)`
  border: 1px solid ${({ theme }) => theme.edge};
  background: ${({ theme }) => theme.sheet};
  border-radius: ${({ theme }) => theme.radius};
  padding: 4px 8px;
  min-height: 26px;
  line-height: 16px;
  display: flex;
  gap: 8px;
  min-width: 0;
  max-width: 100%;
  &[data-hovered] { border-color: ${({ theme }) => theme.ink3}; }
  & > :first-child { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  & > :first-child:empty { display: none; }
`;
const Sheet = styled(Popover)`
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
  box-shadow: 0 4px 14px rgb(0 0 0 / 18%);
  padding: 3px;
  max-height: 320px;
  overflow: auto;
`;
const Item = styled(ListBoxItem)`
  padding: 4px 10px;
  border-radius: 2px;
  cursor: default;
  outline: none;
  &[data-focused] { background: ${({ theme }) => theme.pressed}; }
  &[data-selected] { font-weight: 650; }
`;

/**
 * Letters and digits on a closed list are no choice: they are keys of the page, which gets them as if nothing had the
 * focus. A list that is open takes them itself.
 */
function passOn(event: React.KeyboardEvent): void {
  const { key, code, shiftKey } = event;
  if (key.length !== 1 || key === " " || event.ctrlKey || event.metaKey || event.altKey) return;
  event.stopPropagation();
  event.preventDefault();
  document.body.dispatchEvent(new KeyboardEvent("keydown", { key, code, shiftKey, bubbles: true, cancelable: true }));
}

/** One of many choices, in a list that opens. */
export function Select<T extends string>(props: {
  label: string;
  hideLabel?: boolean;
  value: T | null;
  placeholder?: string;
  options: readonly { id: T; text: string }[];
  onChange: (value: T) => void;
}) {
  const { label, hideLabel = false, value, placeholder = "none", options, onChange } = props;
  return (
    <Root
      aria-label={hideLabel ? label : undefined}
      value={value}
      placeholder={placeholder}
      onChange={(key) => key !== null && onChange(key as T)}
    >
      {!hideLabel && <Caption>{label}</Caption>}
      <span style={{ display: "contents" }} onKeyDownCapture={passOn}>
        <Face>
          <SelectValue />
          <span aria-hidden>▾</span>
        </Face>
      </span>
      <Sheet>
        <ListBox>
          {options.map(({ id, text }) => (
            <Item key={id} id={id} textValue={text}>
              {text}
            </Item>
          ))}
        </ListBox>
      </Sheet>
    </Root>
  );
}
