import { FileTrigger } from "react-aria-components";
import { Button } from "./Button";

/** A button that lets one choose a file, or several at once; the same file may be chosen again. */
export function FileButton(props: {
  text: string;
  /** Endings and media types, with commas between them. */
  accept: string;
  small?: boolean;
  several?: boolean;
  onFiles: (files: [File, ...File[]]) => void;
}) {
  const { text, accept, small = false, several = false, onFiles } = props;
  return (
    <FileTrigger
      acceptedFileTypes={accept.split(",")}
      allowsMultiple={several}
      onSelect={(files) => {
        const [file, ...more] = files ?? [];
        if (file !== undefined) onFiles([file, ...more]);
      }}
    >
      <Button $small={small}>{text}</Button>
    </FileTrigger>
  );
}
