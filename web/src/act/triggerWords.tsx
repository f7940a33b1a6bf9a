import { printCondition, type Trigger } from "@perceptum/core/behaviour";
import type { Target, TargetId } from "@perceptum/core/project";
import { Chip } from "../targets/Chip";

/** The targets that a trigger is about. */
export function triggerTargets(trigger: Trigger): readonly TargetId[] {
  return "arrives" in trigger ? trigger.arrives : "present" in trigger ? trigger.present : [];
}

/** A trigger in words: `Coral tag arrives`. */
export function triggerWords(trigger: Trigger, targets: ReadonlyMap<TargetId, Target>): string {
  const names = triggerTargets(trigger)
    .map((id) => targets.get(id)?.name ?? id)
    .join(" or ");
  if ("arrives" in trigger) return `${names} arrives`;
  if ("present" in trigger) return `${names} is present`;
  if ("nothingKnownFor" in trigger) return `nothing known for ${trigger.nothingKnownFor / 1000} s`;
  if ("after" in trigger) return `after ${trigger.after / 1000} s in the mode`;
  return `as soon as ${printCondition(trigger.becomes)}`;
}

/** The same with the targets' chips before it. */
export function TriggerTitle({ trigger, targets }: { trigger: Trigger; targets: ReadonlyMap<TargetId, Target> }) {
  return (
    <>
      {triggerTargets(trigger).map((id) => (
        <span key={id} style={{ marginRight: 5 }}>
          <Chip target={targets.get(id)} />
        </span>
      ))}
      {triggerWords(trigger, targets)}
    </>
  );
}
