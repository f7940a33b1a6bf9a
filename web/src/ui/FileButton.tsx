import { useRef } from "react";
import { Button } from "./Button";

/** A button that lets one choose a file, or several at once; the same file may be chosen again. */
export function FileButton(props: {
  text: string;
  accept: string;
  label: string;
  small?: boolean;
  several?: boolean;
  onFiles: (files: [File, ...File[]]) => void;
}) {
  const { text, accept, label, small = false, several = false, onFiles } = props;
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
        multiple={several}
        hidden
        aria-label={label}
        onChange={(event) => {
          const [file, ...more] = event.target.files ?? [];
          event.target.value = "";
          if (file) onFiles([file, ...more]);
        }}
      />
    </>
  );
}
