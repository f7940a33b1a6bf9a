import { sensorOf, type Trigger, targetsOf, tellTrigger } from "@perceptum/core/behaviour";
import type { TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { Chip } from "../targets/Chip";

/** A trigger in words: `Coral tag arrives`. */
export function triggerWords(trigger: Trigger, targets: ReadonlyMap<TargetId, Target>): string {
  const sensor = sensorOf(trigger);
  const by = sensor === undefined ? "" : ` (${sensor})`;
  const words = tellTrigger(trigger, (id) => targets.get(id as TargetId)?.name ?? id, by);
  // A row begins with what happens, not with when.
  return words.replace(/^when /, "").replace(/^while (?=.* is present)/, "");
}

/** The same with the targets' chips before it. */
export function TriggerTitle({ trigger, targets }: { trigger: Trigger; targets: ReadonlyMap<TargetId, Target> }) {
  return (
    <>
      {targetsOf(trigger).map((id) => (
        <span key={id} style={{ marginRight: 5 }}>
          <Chip target={targets.get(id)} />
        </span>
      ))}
      {triggerWords(trigger, targets)}
    </>
  );
}
