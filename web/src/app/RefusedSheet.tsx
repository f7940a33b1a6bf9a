import { useState } from "react";
import { useSession } from "../hooks/context";
import { useAppSelector } from "../hooks/store";
import { useWaysOut } from "../hooks/useWaysOut";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** The server refuses the project as it is now: what is wrong, and the ways out. */
export function RefusedSheet() {
  const trouble = useAppSelector((state) => state.document.trouble);
  const present = useAppSelector((state) => state.document.present);
  const session = useSession();
  const { wrong, trying, saveAsFile } = useWaysOut();
  const [closedOn, setClosedOn] = useState<unknown>(null);
  return (
    <Sheet title="This change cannot be saved" isOpen={closedOn !== present} onClose={() => setClosedOn(present)}>
      <p>{trouble}</p>
      <p>Your change is still here. It is sent again when you have changed something.</p>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <SheetButtons>
        <Button onPress={trying(saveAsFile)}>Save as a file</Button>
        <Button onPress={() => setClosedOn(present)}>Go on</Button>
        <Button $main onPress={() => void session.takeBack()}>
          Undo to the last saved state
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
