import { useSession } from "../hooks/context";
import { useAppDispatch } from "../hooks/store";
import { useWaysOut } from "../hooks/useWaysOut";
import { conflictOverruled } from "../model/store/document";
import { fetchProject } from "../server/api";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** The project was changed in another window meanwhile: nothing is overwritten until the person has chosen. */
export function ConflictSheet() {
  const session = useSession();
  const dispatch = useAppDispatch();
  const { wrong, trying, keepAsCopy } = useWaysOut();
  const mine = trying(async () => {
    const { revision } = await fetchProject(session.id);
    if (session.isOpen) dispatch(conflictOverruled(revision));
  });
  return (
    <Sheet title="Changed in two places" isOpen>
      <p>
        The project was changed in another window or by another person while you changed it here. Your changes are kept.
        Which version do you want to keep?
      </p>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <SheetButtons>
        <Button onPress={trying(() => session.takeSaved())}>Use the saved one</Button>
        <Button onPress={mine}>Overwrite with mine</Button>
        <Button $main onPress={trying(() => keepAsCopy("copy"))}>
          Keep both
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
