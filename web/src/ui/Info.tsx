import { Dialog, DialogTrigger, Popover } from "react-aria-components";
import styled from "styled-components";
import { QuietButton } from "./Button";
import { GLOSSARY, type GlossaryWord } from "./glossary";

const Sign = styled.span`
  display: inline-grid;
  place-items: center;
  width: 14px;
  height: 14px;
  border: 1px solid currentColor;
  border-radius: 50%;
  font: italic 700 10px/1 ${({ theme }) => theme.mono};
`;
const Card = styled(Popover)`
  max-width: 300px;
  padding: 9px 11px;
  background: ${({ theme }) => theme.sheet};
  color: ${({ theme }) => theme.ink};
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
  box-shadow: 0 4px 14px rgb(0 0 0 / 18%);
  font-size: 12.5px;
  & [role="dialog"] { outline: none; }
`;

/** An i beside a word: pressed, it says what the word means. */
export function Info({ word }: { word: GlossaryWord }) {
  return (
    <DialogTrigger>
      <QuietButton aria-label={`What is meant: ${word}`} style={{ padding: 0 }}>
        <Sign aria-hidden>i</Sign>
      </QuietButton>
      <Card>
        <Dialog aria-label={word}>{GLOSSARY[word]}</Dialog>
      </Card>
    </DialogTrigger>
  );
}
