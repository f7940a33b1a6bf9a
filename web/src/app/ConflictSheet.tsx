import { joinProject } from "@perceptum/core/project";
import { useState } from "react";
import { useNavigate } from "react-router";
import { failureText, fetchProject, useAddProjectMutation } from "../state/api";
import { conflictOverruled, opened } from "../state/document";
import { holdReadings } from "../state/judged";
import { readingStore } from "../state/readings";
import { useAppDispatch, useAppSelector } from "../state/store";
import { forgetUnsent } from "../state/unsent";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Sheet, SheetButtons } from "../ui/Sheet";

/** The project was changed in another window meanwhile: nothing is overwritten until the person has chosen. */
export function ConflictSheet() {
  const { id, present, saving, trouble } = useAppSelector((state) => state.document);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [add] = useAddProjectMutation();
  const [wrong, setWrong] = useState<string>();
  if (id === null || present === null) return null;

  const trying = (work: () => Promise<void>) => () => {
    work().catch((error: unknown) => setWrong(error instanceof Error ? error.message : failureText(error)));
  };
  const mine = trying(async () => {
    dispatch(conflictOverruled((await fetchProject(id)).revision));
  });
  const theirs = trying(async () => {
    const there = await fetchProject(id);
    await readingStore.load(
      id,
      there.project.tapes.map((t) => t.id),
    );
    holdReadings();
    await forgetUnsent(id);
    dispatch(opened({ id, ...there }));
  });
  const copy = trying(async () => {
    const added = await add(
      joinProject({ ...present, name: `${present.name} (copy)`.slice(0, 80) }, readingStore.all),
    ).unwrap();
    await forgetUnsent(id);
    await navigate(`/p/${added.id}/sense`);
  });
  return (
    <Sheet title="Changed in two places" isOpen={saving === "conflict"}>
      <p>
        {trouble.charAt(0).toUpperCase()}
        {trouble.slice(1)}. Your changes are kept here. Which state shall hold?
      </p>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <SheetButtons>
        <Button onPress={theirs}>Theirs, drop mine</Button>
        <Button onPress={mine}>Mine, over theirs</Button>
        <Button $main onPress={copy}>
          Both: mine as a copy
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
