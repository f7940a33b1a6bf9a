import { type Completion, completed } from "@perceptum/core/phrases";
import type { RefObject } from "react";
import { useId, useLayoutEffect, useRef, useState } from "react";
import styled from "styled-components";
import { Box, Wrong } from "./EntryField";
import { useDraft } from "./useDraft";

const Room = styled.div`
  position: relative;
`;
/** One line that grows with what is in it. */
const Lines = styled(Box)`
  display: block;
  resize: none;
  overflow: hidden;
  overflow-wrap: anywhere;
  line-height: 16px;
  field-sizing: content;
`;
const Words = styled.div`
  position: absolute;
  z-index: 5;
  top: 100%;
  left: 0;
  min-width: 120px;
  max-height: 190px;
  overflow: auto;
  margin: 1px 0 0;
  padding: 2px;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
  box-shadow: 0 4px 14px rgb(0 0 0 / 18%);
  font-family: ${({ theme }) => theme.mono};
  font-size: 12px;
  & > div { padding: 2px 8px; cursor: default; }
  & > div[aria-selected="true"] { background: ${({ theme }) => theme.pressed}; }
`;

/** At most so many words are offered at once. */
const MOST_WORDS = 12;

/**
 * A field for a phrase, taken when it is entered, that offers the words that may come next: the arrow keys choose one,
 * Tab or Enter takes it. Where it cannot be taken the text stays and the sentence of `take` stands below.
 */
export function PhraseField(props: {
  label: string;
  text: string;
  take: (text: string) => string | undefined;
  complete: (text: string) => readonly Completion[];
  placeholder?: string;
  clearAfter?: boolean;
}) {
  const { label, text, take, complete, placeholder, clearAfter = false } = props;
  const { draft, wrong, enter, type, leave, takeBack } = useDraft(text, take, clearAfter);
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState(-1);
  const box = useRef<HTMLTextAreaElement>(null);
  const id = useId();
  useLayoutEffect(() => {
    // Where the browser does not know `field-sizing`.
    const { current } = box;
    if (current === null || draft === "" || CSS.supports("field-sizing", "content")) return;
    current.style.height = "0";
    current.style.height = `${current.scrollHeight + 2}px`;
  }, [draft]);

  const words = open ? complete(draft).slice(0, MOST_WORDS) : [];
  const closeWords = () => {
    setOpen(false);
    setChosen(-1);
  };
  const accept = (completion: Completion) => {
    type(completed(draft, completion));
    setChosen(-1);
    box.current?.focus();
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.altKey) return;
    if (words.length > 0 && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      event.preventDefault();
      const step = event.key === "ArrowDown" ? 1 : -1;
      setChosen(((words.length + 1 + chosen + 1 + step) % (words.length + 1)) - 1);
    } else if (chosen >= 0 && words[chosen] !== undefined && (event.key === "Enter" || event.key === "Tab")) {
      event.preventDefault();
      accept(words[chosen]);
    } else if (event.key === "Enter") {
      event.preventDefault();
      closeWords();
      enter();
    } else if (event.key === "Escape") {
      if (words.length > 0) event.stopPropagation();
      else takeBack();
      closeWords();
    }
  };
  return (
    <Room>
      <Lines
        as="textarea"
        rows={1}
        ref={box as RefObject<null>}
        aria-label={label}
        aria-autocomplete="list"
        aria-controls={words.length > 0 ? `${id}words` : undefined}
        aria-activedescendant={chosen >= 0 ? `${id}word${chosen}` : undefined}
        aria-invalid={wrong !== undefined}
        aria-describedby={wrong === undefined ? undefined : `${id}wrong`}
        data-typing={draft !== text}
        $wide
        value={draft}
        placeholder={placeholder}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => {
          type(event.target.value.replace(/\s*[\r\n]+\s*/g, " "));
          setOpen(true);
          setChosen(-1);
        }}
        onBlur={() => {
          closeWords();
          leave();
        }}
        onKeyDown={onKeyDown}
      />
      {words.length > 0 && (
        <Words id={`${id}words`} role="listbox" aria-label={`Words for ${label}`}>
          {words.map((completion, i) => (
            <div
              key={`${completion.from} ${completion.word}`}
              id={`${id}word${i}`}
              role="option"
              aria-selected={i === chosen}
              tabIndex={-1}
              onPointerDown={(event) => {
                event.preventDefault();
                accept(completion);
              }}
            >
              {completion.word}
            </div>
          ))}
        </Words>
      )}
      {wrong !== undefined && (
        <Wrong id={`${id}wrong`} role="alert">
          {wrong}
        </Wrong>
      )}
    </Room>
  );
}
