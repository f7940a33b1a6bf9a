import { useState } from "react";
import styled from "styled-components";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { Kbd } from "../ui/layout";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { letSingleKeysWork, singleKeysWork } from "../ui/singleKeys";

const Table = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 14px;
  margin: 0;
  & dd { margin: 0; }
`;

const KEYS: readonly (readonly [string[], string])[] = [
  [["Alt", "1", "5"], "go to a stage, from Sense to Ship"],
  [["F6"], "the next pane; with Shift the one before"],
  [["Space"], "play or pause"],
  [["←", "→"], "one reading back or on; with Shift ten"],
  [["[", "]"], "the event before or after"],
  [["R"], "on the bench: record, and stop and keep"],
  [["1", "9"], "while recording: hold to mark the first to ninth target; in a run: hold it up before the sensor"],
  [["F"], "on the bench: freeze the display"],
  [["S"], "solo the chosen rule: all others off, and back"],
  [["←", "→", "↑", "↓"], "in the grid of responses: from cell to cell"],
  [["Delete"], "in the course editor: remove the chosen part"],
  [[",", "."], "in the course editor: turn the chosen part"],
  [["Alt", "↑", "↓"], "move a step"],
  [["Ctrl", "Z"], "undo"],
  [["Ctrl", "Shift", "Z"], "redo"],
  [["?"], "this list"],
];

/** What the keys do. On a handle or a number, the arrow keys move the bound; with Shift ten steps. */
export function ShortcutSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const [work, setWork] = useState(singleKeysWork);
  return (
    <Sheet title="Keys" isOpen={isOpen} onClose={onClose}>
      <Table>
        {KEYS.map(([keys, text]) => (
          <div key={text} style={{ display: "contents" }}>
            <dt>
              {keys.map((key) => (
                <Kbd key={key} style={{ marginRight: 3 }}>
                  {key}
                </Kbd>
              ))}
            </dt>
            <dd>{text}</dd>
          </div>
        ))}
      </Table>
      <p>On a handle of a box, or in a number, the arrow keys move that bound; with Shift ten steps at once.</p>
      <Check
        checked={work}
        onChange={(on) => {
          letSingleKeysWork(on);
          setWork(on);
        }}
      >
        Letters, digits and signs work as keys by themselves (for speech input, switch this off)
      </Check>
      <SheetButtons>
        <Button onPress={onClose}>Close</Button>
      </SheetButtons>
    </Sheet>
  );
}
