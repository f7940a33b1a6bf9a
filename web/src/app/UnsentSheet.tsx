import { useState } from "react";
import { useSession } from "../hooks/context";
import type { Unsent } from "../model/session/kept";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** Changes that this browser kept and the server does not have: restore them, or discard them. */
export function UnsentSheet({ unsent }: { unsent: Unsent }) {
  const session = useSession();
  const [wrong, setWrong] = useState<string>();
  const at = new Date(unsent.at).toLocaleString();
  const restore = () => {
    session.earlier
      .restore(unsent)
      .catch((error: Error) => setWrong(`They cannot be restored: ${error.message}. They stay in this browser.`));
  };
  return (
    <Sheet title="Unsent changes" isOpen>
      <p>
        This browser kept changes from {at} that the server does not have: it did not answer, or the page was closed too
        soon.
      </p>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <SheetButtons>
        <Button onPress={() => void session.earlier.discard(unsent)}>Discard</Button>
        <Button $main onPress={restore}>
          Restore
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
