import { type Trigger, targetsOf, tellTrigger } from "@perceptum/core/behaviour";
import type { ProjectDocument } from "@perceptum/core/project";
import { Chip } from "../targets/Chip";

/** A trigger in words: `Coral tag arrives`, `Left eye sees Coral tag arrive`. */
export function triggerWords(
  trigger: Trigger,
  { targets, sensors }: Pick<ProjectDocument, "targets" | "sensors">,
): string {
  const words = tellTrigger(trigger, (id) => [...targets, ...sensors].find((thing) => thing.id === id)?.name ?? id);
  // A row begins with what happens, not with when.
  return words.replace(/^when /, "").replace(/^while (?=.* is present)/, "");
}

/** The same with the targets' chips before it. */
export function TriggerTitle({ trigger, project }: { trigger: Trigger; project: ProjectDocument }) {
  return (
    <>
      {targetsOf(trigger).map((id) => (
        <span key={id} style={{ marginRight: 5 }}>
          <Chip target={project.targets.find((target) => target.id === id)} />
        </span>
      ))}
      {triggerWords(trigger, project)}
    </>
  );
}
