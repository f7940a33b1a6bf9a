import type { Edit } from "@perceptum/core/edits";
import { freeId, nextId, numbered, type RuleId, type TargetId } from "@perceptum/core/names";
import type { Mark } from "@perceptum/core/readings";
import { firstBands, markedTapes, middleOf, sampleOf } from "@perceptum/core/teaching";
import { useState } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useEdit, useProject, useRuleSet, useTargets } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { ruleChosen } from "../model/store/view";
import { Button } from "../ui/Button";
import { Dim } from "../ui/layout";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { seconds } from "../ui/seconds";

const Row = styled.p`
  display: flex;
  gap: 8px;
  align-items: center;
`;

/** Teaches a target from one stretch: the mark under the playhead, or the part of the tape that is shown. */
export function TeachButton() {
  const [open, setOpen] = useState(false);
  const tape = useAppSelector((state) => state.view.tape);
  return (
    <>
      <Button why={tape === null && "There is no tape yet. Record one in Sense first."} onPress={() => setOpen(true)}>
        Teach from this stretch
      </Button>
      {open && <TeachSheet onClose={() => setOpen(false)} />}
    </>
  );
}

function TeachSheet({ onClose }: { onClose: () => void }) {
  const project = useProject();
  const { readings } = useSession();
  const ruleSet = useRuleSet();
  const byId = useTargets();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const { tape: tapeId, playheads, windows, target: chosen } = useAppSelector((state) => state.view);
  const tape = project.tapes.find((t) => t.id === tapeId);
  const sensor = project.sensors.find((s) => s.id === tape?.sensor);
  const t = tapeId === null ? 0 : (playheads[tapeId] ?? 0);
  const mark = tape?.marks.find((m) => m.from <= t && t <= m.to);
  const part = tapeId === null ? undefined : windows[tapeId];
  const stretch = mark ?? part;
  const [target, setTarget] = useState<TargetId | undefined>(mark?.target ?? chosen ?? project.targets[0]?.id);
  const own = sensor?.ruleSet === ruleSet.id;

  const teach = () => {
    if (tape === undefined || stretch === undefined || target === undefined) return;
    const made: Mark = mark
      ? { ...mark, target }
      : { id: nextId("mark", tape.marks), from: stretch.from, to: stretch.to, target };
    // Only this stretch counts, whatever else is marked.
    const alone = markedTapes({ ...project, tapes: [{ ...tape, marks: [made] }] }, readings.all);
    const number = project.targets.findIndex((x) => x.id === target) + 1;
    const name = byId.get(target)?.name;
    const known = ruleSet.rules.find((r) => r.target === target);
    const id =
      known?.id ??
      freeId<RuleId>(
        target,
        ruleSet.rules.map((r) => r.id),
      );
    const taught = (): Edit[] => {
      if (ruleSet.method === "nearest") {
        const sample = sampleOf(project, alone, ruleSet.id);
        const middle = middleOf(
          sample,
          Array.from({ length: sample.count }, (_, i) => i),
        );
        if (middle === undefined) return [];
        const light = made.light !== undefined && { light: made.light };
        const reference = { id: nextId("reference", ruleSet.nearest.references), target, ...middle, ...light };
        return [{ edit: "addReference", args: { ruleSet: ruleSet.id, reference } }];
      }
      const any = numbered("clause", [{ all: firstBands(alone, number) }]);
      if (known === undefined)
        return [{ edit: "addRule", args: { ruleSet: ruleSet.id, rule: { id, target, on: true, any }, before: null } }];
      return [
        { edit: "setTests", args: { ruleSet: ruleSet.id, rule: id, any } },
        { edit: "switchRule", args: { ruleSet: ruleSet.id, rule: id, on: true } },
      ];
    };
    const marked: Edit = mark
      ? { edit: "changeMark", args: { tape: tape.id, mark: mark.id, change: { target } } }
      : { edit: "addMark", args: { tape: tape.id, mark: made } };
    edit("together", { did: `${name} taught`, edits: [marked, ...taught()] });
    if (ruleSet.method === "bands") dispatch(ruleChosen({ rule: id, target }));
    onClose();
  };
  return (
    <Sheet title="Teach from this stretch" isOpen onClose={onClose}>
      {stretch === undefined ? (
        <p>
          The playhead is in no marked stretch. Move it into one, or zoom the tape until only the readings of one thing
          are shown: then these are the stretch.
        </p>
      ) : !own ? (
        <p>This tape is of a sensor with other rules. Choose a tape of a sensor that these rules are for.</p>
      ) : (
        <>
          <Row>
            From {(stretch.from / 1000).toFixed(2)} to {seconds(stretch.to)} of {tape?.name}
            <Dim>{mark ? "the mark at the playhead" : "what the tape shows; it is marked too"}</Dim>
          </Row>
          <Select
            label="These are readings of"
            value={(target as string | undefined) ?? null}
            options={project.targets.map((x) => ({ id: x.id as string, text: x.name }))}
            onChange={(id) => setTarget(id as TargetId)}
          />
          <Dim style={{ whiteSpace: "normal" }}>
            {ruleSet.method === "nearest"
              ? "A reference in the middle of these readings is added."
              : "The target gets bands around these readings alone; a rule that it has is replaced. Nothing is weighed against other targets: for that there is the suggestion."}
          </Dim>
        </>
      )}
      <SheetButtons>
        <Button onPress={onClose}>Cancel</Button>
        <Button
          $main
          why={(stretch === undefined || target === undefined || !own) && "What is missing stands above."}
          onPress={teach}
        >
          Teach
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
