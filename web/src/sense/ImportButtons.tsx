import { useEffect, useState } from "react";
import styled from "styled-components";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileButton";
import { Dim } from "../ui/layout";
import { lazySheet } from "../ui/lazySheet";
import { Sheet, SheetButtons } from "../ui/Sheet";
import type { ImportText } from "./ImportSheet";

const ImportSheet = lazySheet(() => import("./ImportSheet").then((m) => m.ImportSheet));

const Area = styled.textarea`
  width: 100%;
  height: 220px;
  font: 12px ${({ theme }) => theme.mono};
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  border-radius: 2px;
  padding: 6px;
`;

const looksLikeReadings = (text: string) => /\n/.test(text.trim()) && /\d/.test(text);

/** The ways in for readings: a file chosen or dropped on the page, or text pasted. */
export function ImportButtons() {
  const [source, setSource] = useState<ImportText | null>(null);
  const [pasting, setPasting] = useState<string | null>(null);

  useEffect(() => {
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      const [file] = event.dataTransfer?.files ?? [];
      if (file === undefined) return;
      event.preventDefault();
      setSource({ name: file.name, file });
    };
    const paste = (event: ClipboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.closest("input, textarea") !== null) return;
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (looksLikeReadings(text)) setSource({ name: "pasted text", text });
    };
    window.addEventListener("dragover", over);
    window.addEventListener("drop", drop);
    window.addEventListener("paste", paste);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("drop", drop);
      window.removeEventListener("paste", paste);
    };
  }, []);

  return (
    <>
      <FileButton
        small
        text="Import …"
        label="Readings file"
        accept=".csv,.tsv,.txt,.jsonl,.ndjson,.json,text/*"
        onFile={(file) => setSource({ name: file.name, file })}
      />
      <Button $small onPress={() => setPasting("")}>
        Paste …
      </Button>
      {source !== null && <ImportSheet source={source} onClose={() => setSource(null)} />}
      {pasting !== null && (
        <Sheet title="Paste readings" isOpen onClose={() => setPasting(null)}>
          <Dim>
            Rows as they stand in a table or a log: columns split by commas, semicolons or tabs, or one JSON object a
            line.
          </Dim>
          <Area
            aria-label="Readings as text"
            value={pasting}
            onChange={(event) => setPasting(event.target.value)}
            spellCheck={false}
          />
          <SheetButtons>
            <Button onPress={() => setPasting(null)}>Cancel</Button>
            <Button
              $main
              isDisabled={pasting.trim() === ""}
              onPress={() => {
                setSource({ name: "pasted text", text: pasting });
                setPasting(null);
              }}
            >
              Look at it
            </Button>
          </SheetButtons>
        </Sheet>
      )}
    </>
  );
}
