import { edited } from "../state/document";
import { useAppDispatch } from "../state/store";
import { forgetUnsent, type Unsent } from "../state/unsent";
import { Button } from "../ui/Button";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** Changes that this browser kept and the server never answered for: take them up, or leave them. */
export function UnsentSheet({ unsent, onDone }: { unsent: Unsent; onDone: () => void }) {
  const dispatch = useAppDispatch();
  const at = new Date(unsent.at).toLocaleString();
  return (
    <Sheet title="Changes that were not sent" isOpen>
      <p>
        This browser kept changes from {at} which the server does not have, because it could not be reached or the page
        was closed too soon.
      </p>
      <SheetButtons>
        <Button
          onPress={() => {
            void forgetUnsent(unsent.id);
            onDone();
          }}
        >
          Leave them out
        </Button>
        <Button
          $main
          onPress={() => {
            dispatch(edited({ project: unsent.project, what: "taking up unsent changes" }));
            onDone();
          }}
        >
          Take them up
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
