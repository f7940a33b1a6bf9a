import { useState } from "react";
import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import type { LeftRecording } from "../model/session/Recordings";
import { amount } from "../ui/amount";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** A recording was under way when its page was left, closed or broke off: keep it as a tape, or discard it. */
export function LeftRecordingSheet({ left }: { left: LeftRecording }) {
  const session = useSession();
  const { sensors } = useProject();
  const [wrong, setWrong] = useState<string>();
  const sensor = sensors.find(({ id }) => id === left.sensor)?.name;
  const count = amount(left.readings.t.length, left.frames === undefined ? "reading" : "frame");
  return (
    <Sheet title="A recording was not ended" isOpen>
      <p>
        A page was left while it recorded. This browser has kept {count}
        {sensor === undefined ? "" : ` of ${sensor}`}, from {new Date(left.at).toLocaleString()}
        {left.marks.length > 0 && `, with ${amount(left.marks.length, "mark")}`}.
      </p>
      {sensor === undefined && <p>Its sensor is no longer in this project, so it cannot become a tape here.</p>}
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <SheetButtons>
        <Button onPress={() => void session.recordings.forget(left)}>Discard</Button>
        <Button
          $main
          why={sensor === undefined && "Its sensor is no longer in this project."}
          onPress={() =>
            session
              .keepLeft(left)
              .catch((error: Error) => setWrong(`It was not kept: ${error.message}. It stays in this browser.`))
          }
        >
          Keep as a tape
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
