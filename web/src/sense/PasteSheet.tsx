import { useState } from "react";
import styled from "styled-components";
import { Button } from "../ui/Button";
import { Dim } from "../ui/layout";
import { Sheet, SheetButtons } from "../ui/Sheet";

const Area = styled.textarea`
  width: 100%;
  height: 220px;
  font: 12px ${({ theme }) => theme.mono};
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: 2px;
  padding: 6px;
`;

/** Takes readings as text. */
export function PasteSheet({ onText, onClose }: { onText: (text: string) => void; onClose: () => void }) {
  const [text, setText] = useState("");
  return (
    <Sheet title="Paste readings" isOpen onClose={onClose}>
      <Dim style={{ whiteSpace: "normal" }}>
        Rows as they stand in a table or a log: columns split by commas, semicolons or tabs, or one JSON object a line.
      </Dim>
      <Area
        aria-label="Readings as text"
        value={text}
        onChange={(event) => setText(event.target.value)}
        spellCheck={false}
      />
      <SheetButtons>
        <Button onPress={onClose}>Cancel</Button>
        <Button $main why={text.trim() === "" && "Nothing is pasted yet."} onPress={() => onText(text)}>
          Look at it
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
