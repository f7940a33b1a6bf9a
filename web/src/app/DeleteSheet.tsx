import { Button } from "../ui/Button";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** Asks before projects are deleted for good. */
export function DeleteSheet(props: { names: readonly string[]; onKeep: () => void; onDelete: () => void }) {
  const { names, onKeep, onDelete } = props;
  const [first] = names;
  const one = names.length === 1;
  return (
    <Sheet title={one ? `Delete “${first}”?` : `Delete ${names.length} projects?`} isOpen onClose={onKeep}>
      {!one && <p>{names.join(", ")}</p>}
      <p>
        {one ? "Its" : "Their"} rules, behaviour, courses and tapes are gone for good. Save{" "}
        {one ? "its project file" : "their project files"} first if you may want {one ? "it" : "them"} back.
      </p>
      <SheetButtons>
        <Button onPress={onKeep}>{one ? "Keep it" : "Keep them"}</Button>
        <Button $main onPress={onDelete}>
          Delete
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
