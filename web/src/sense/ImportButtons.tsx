import { useCallback, useEffect, useState } from "react";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileButton";
import { lazily } from "../ui/lazily";
import { isPictureFile, READING_FILES } from "./fileKinds";
import type { ImportText } from "./useImport";

const ImportSheet = lazily(() => import("./ImportSheet").then((m) => m.ImportSheet));

const PictureSheet = lazily(() => import("../camera/PictureSheet").then((m) => m.PictureSheet));

const PasteSheet = lazily(() => import("./PasteSheet").then((m) => m.PasteSheet));

const looksLikeReadings = (text: string) => /\n/.test(text.trim()) && /\d/.test(text);

/** The ways in for readings: a file chosen or dropped on the page, or text pasted. */
export function ImportButtons() {
  const [source, setShown] = useState<(ImportText & { at: number }) | null>(null);
  const [pasting, setPasting] = useState(false);
  const [pictures, setPictures] = useState<{ files: readonly File[]; at: number } | null>(null);
  // Another file takes the place of one that is looked at: a sheet of its own, with nothing of the first.
  const setSource = useCallback(
    (next: ImportText | null) => setShown((now) => next && { ...next, at: (now?.at ?? 0) + 1 }),
    [],
  );

  /** Pictures and videos are for a camera, a file of anything else holds readings. */
  const takeFiles = useCallback(
    (files: readonly File[]) => {
      const [file] = files;
      if (file === undefined) return;
      if (files.some(isPictureFile)) setPictures((now) => ({ files, at: (now?.at ?? 0) + 1 }));
      else setSource({ name: file.name, file });
    },
    [setSource],
  );

  useEffect(() => {
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length === 0) return;
      event.preventDefault();
      takeFiles(files);
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
  }, [setSource, takeFiles]);

  return (
    <>
      <FileButton small text="Import …" accept={READING_FILES} several onFiles={takeFiles} />
      <Button $small onPress={() => setPasting(true)}>
        Paste …
      </Button>
      {source !== null && <ImportSheet key={source.at} source={source} onClose={() => setSource(null)} />}
      {pictures !== null && <PictureSheet key={pictures.at} files={pictures.files} onClose={() => setPictures(null)} />}
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
