import { partingOf } from "@perceptum/core/world";
import { useMemo } from "react";
import { useGoTo } from "../hooks/useGoTo";
import type { LastRun } from "../model/judging/Mentor";
import { noteWriter } from "../tape/NoteList";
import { QuietButton } from "../ui/Button";
import { seconds } from "../ui/seconds";

/** Where a run parts from the one that it is compared with; pressing it goes there. */
export function PartingLine({ first, second }: { first: LastRun; second: LastRun }) {
  const goTo = useGoTo("run");
  const parting = useMemo(() => partingOf(first.trace, second.trace), [first, second]);
  const said = (note: NonNullable<typeof parting>["first"], run: LastRun) =>
    note ? noteWriter(run.project)(note).trim() : "nothing more";
  return (
    <p role="status" aria-label="Where the runs part" style={{ fontSize: 12, marginTop: 5 }}>
      {parting === undefined ? (
        "The same happens in both runs, in the same order."
      ) : (
        <>
          They part at <QuietButton onPress={() => goTo(parting.t)}>{seconds(parting.t)}</QuietButton>: before “
          {said(parting.first, first)}”, now “{said(parting.second, second)}”; in the end the{" "}
          {first.trace.belt === undefined ? "robots" : "belts"} are {(parting.apart / 10).toFixed(0)} cm apart.
        </>
      )}
    </p>
  );
}
