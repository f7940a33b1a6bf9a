import { useNavigate } from "react-router";
import { useSession } from "../hooks/context";
import { useWaysOut } from "../hooks/useWaysOut";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** The project was deleted elsewhere while it is open here. */
export function GoneSheet() {
  const session = useSession();
  const navigate = useNavigate();
  const { wrong, trying, keepAsCopy } = useWaysOut();
  const leave = trying(async () => {
    session.dropChanges();
    await navigate("/?list");
  });
  return (
    <Sheet title="This project was deleted" isOpen>
      <p>It was deleted in another window or by another person. All of it is still here, with your last changes.</p>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <SheetButtons>
        <Button onPress={leave}>Leave it deleted</Button>
        <Button $main onPress={trying(() => keepAsCopy("kept"))}>
          Keep it as a new project
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
