import { type Response, targetsOf } from "@perceptum/core/behaviour";
import type { ModeId, TargetId } from "@perceptum/core/names";
import { useState } from "react";
import { useEdit, useProject } from "../hooks/project";
import { Chip } from "../targets/Chip";
import { amount } from "../ui/amount";
import { Button } from "../ui/Button";
import { CheckGroup } from "../ui/Check";
import { Dim, Title } from "../ui/layout";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { copiesOf } from "./newResponse";
import { triggerWords } from "./triggerWords";

/** The same answer for other targets and in other modes, all at once. */
export function CopyResponseSheet({
  mode,
  response,
  onClose,
}: {
  mode: ModeId;
  response: Response;
  onClose: () => void;
}) {
  const project = useProject();
  const edit = useEdit();
  const about = targetsOf(response.when);
  const [targets, setTargets] = useState<readonly TargetId[]>([]);
  const [modes, setModes] = useState<readonly ModeId[]>([mode]);
  const copies = modes.length * Math.max(about.length > 0 ? targets.length : 1, 0);
  const nothing = about.length > 0 ? targets.length === 0 : modes.every((m) => m === mode);
  return (
    <Sheet title="Copy the response" isOpen onClose={onClose}>
      <Dim>{triggerWords(response.when, project)}: its steps and all that it says are copied.</Dim>
      {about.length > 0 && (
        <>
          <Title>for</Title>
          <CheckGroup
            label="Targets"
            items={project.targets.map((t) => ({
              id: t.id,
              words: (
                <>
                  <Chip target={t} /> {t.name}
                </>
              ),
            }))}
            chosen={targets}
            onChange={setTargets}
          />
        </>
      )}
      <Title>in</Title>
      <CheckGroup
        label="Modes"
        items={project.behaviour.modes.map((m) => ({ id: m.id, words: m.name }))}
        chosen={modes}
        onChange={setModes}
      />
      <SheetButtons>
        <Button onPress={onClose}>Cancel</Button>
        <Button
          $main
          why={(copies === 0 || nothing) && "Choose a target or a mode first."}
          onPress={() => {
            const edits = copiesOf(project, response, about.length > 0 ? targets : [], modes);
            edit("together", { did: "response copied", edits });
            onClose();
          }}
        >
          Add {amount(copies, "response")}
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
