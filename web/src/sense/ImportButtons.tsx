import { useCallback, useEffect, useState } from "react";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileButton";
import { lazily } from "../ui/lazily";
import type { ImportText } from "./useImport";

const ImportSheet = lazily(() => import("./ImportSheet").then((m) => m.ImportSheet));

const PasteSheet = lazily(() => import("./PasteSheet").then((m) => m.PasteSheet));

const looksLikeReadings = (text: string) => /\n/.test(text.trim()) && /\d/.test(text);

/** The ways in for readings: a file chosen or dropped on the page, or text pasted. */
export function ImportButtons() {
  const [source, setShown] = useState<(ImportText & { at: number }) | null>(null);
  const [pasting, setPasting] = useState(false);
  // Another file takes the place of one that is looked at: a sheet of its own, with nothing of the first.
  const setSource = useCallback(
    (next: ImportText | null) => setShown((now) => next && { ...next, at: (now?.at ?? 0) + 1 }),
    [],
  );

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
  }, [setSource]);

  return (
    <>
      <FileButton
        small
        text="Import …"
        label="Readings file"
        accept=".csv,.tsv,.txt,.jsonl,.ndjson,.json,text/*"
        onFile={(file) => setSource({ name: file.name, file })}
      />
      <Button $small onPress={() => setPasting(true)}>
        Paste …
      </Button>
      {source !== null && <ImportSheet key={source.at} source={source} onClose={() => setSource(null)} />}
      {pasting && (
        <PasteSheet
          onClose={() => setPasting(false)}
          onText={(text) => {
            setSource({ name: "pasted text", text });
            setPasting(false);
          }}
        />
      )}
    </>
  );
}
