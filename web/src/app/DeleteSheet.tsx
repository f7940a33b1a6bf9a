import { Button } from "../ui/Button";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** Asks before a project is deleted for good. */
export function DeleteSheet(props: { name: string; onKeep: () => void; onDelete: () => void }) {
  const { name, onKeep, onDelete } = props;
  return (
    <Sheet title={`Delete “${name}”?`} isOpen onClose={onKeep}>
      <p>
        Its rules, behaviour, courses and tapes are gone for good. Save its project file first if you may want it back.
      </p>
      <SheetButtons>
        <Button onPress={onKeep}>Keep it</Button>
        <Button $main onPress={onDelete}>
          Delete
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
