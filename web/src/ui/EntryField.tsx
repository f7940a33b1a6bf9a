import { useId } from "react";
import styled from "styled-components";
import { useDraft } from "./useDraft";

export const Box = styled.input<{ $wide?: boolean; $mono?: boolean }>`
  border: 1px solid ${({ theme }) => theme.edge};
  background: ${({ theme }) => theme.sheet};
  border-radius: 2px;
  padding: 3px 6px;
  min-height: 24px;
  width: ${({ $wide }) => ($wide ? "100%" : "56px")};
  font-family: ${({ theme, $mono }) => ($mono ? theme.mono : "inherit")};
  font-size: ${({ $mono }) => ($mono ? "12px" : "inherit")};
  text-align: ${({ $mono }) => ($mono ? "right" : "left")};
  &::placeholder { color: ${({ theme }) => theme.ink3}; opacity: 1; }
  &[aria-invalid="true"] { border: 1px dashed ${({ theme }) => theme.ink}; }
`;
export const Wrong = styled.p`
  font-size: 12px;
  padding: 3px 0;
  font-weight: 600;
  &::before { content: "■ "; font-size: 9px; vertical-align: 1px; }
`;

/**
 * A field whose text is taken when it is entered (Enter or leaving it). `take` gives a sentence where it cannot be
 * taken: the text stays, the sentence stands below, and what was there before goes on holding.
 */
export function EntryField(props: {
  label: string;
  text: string;
  take: (text: string) => string | undefined;
  step?: (direction: 1 | -1, times: number) => void;
  wide?: boolean;
  mono?: boolean;
  placeholder?: string;
  clearAfter?: boolean;
  width?: number;
}) {
  const { label, text, take, step, wide = false, mono = false, placeholder, clearAfter = false, width } = props;
  const { draft, wrong, enter, type, leave, takeBack } = useDraft(text, take, clearAfter);
  const wrongId = useId();
  return (
    <>
      <Box
        aria-label={label}
        data-typing={draft !== text}
        aria-invalid={wrong !== undefined}
        aria-describedby={wrong === undefined ? undefined : wrongId}
        $wide={wide}
        $mono={mono}
        style={width === undefined ? undefined : { width }}
        value={draft}
        placeholder={placeholder}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => type(event.target.value)}
        onBlur={leave}
        onKeyDown={(event) => {
          if (event.key === "Enter") enter();
          else if (event.key === "Escape") takeBack();
          else if (step && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
            event.preventDefault();
            step(event.key === "ArrowUp" ? 1 : -1, event.shiftKey ? 10 : 1);
          }
        }}
      />
      {wrong !== undefined && (
        <Wrong id={wrongId} role="alert">
          {wrong}
        </Wrong>
      )}
    </>
  );
}
