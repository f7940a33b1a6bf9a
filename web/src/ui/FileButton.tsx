import { useRef } from "react";
import { Button } from "./Button";

/** A button that lets one choose a file; the same file may be chosen again. */
export function FileButton(props: {
  text: string;
  accept: string;
  label: string;
  small?: boolean;
  onFile: (file: File) => void;
}) {
  const { text, accept, label, small = false, onFile } = props;
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button $small={small} onPress={() => chooser.current?.click()}>
        {text}
      </Button>
      <input
        ref={chooser}
        type="file"
        accept={accept}
        hidden
        aria-label={label}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </>
  );
}
