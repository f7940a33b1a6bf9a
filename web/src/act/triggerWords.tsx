import { printCondition, type Trigger } from "@perceptum/core/behaviour";
import type { SensorId, TargetId } from "@perceptum/core/names";
import type { Target } from "@perceptum/core/rules";
import { Chip } from "../targets/Chip";

/** The targets that a trigger is about. */
export function triggerTargets(trigger: Trigger): readonly TargetId[] {
  if ("arrives" in trigger) return trigger.arrives;
  if ("departs" in trigger) return trigger.departs;
  return "present" in trigger ? trigger.present : [];
}

/** A trigger in words: `Coral tag arrives`. */
export function triggerWords(trigger: Trigger, targets: ReadonlyMap<TargetId, Target>): string {
  const names = triggerTargets(trigger)
    .map((id) => targets.get(id)?.name ?? id)
    .join(" or ");
  const by = "sensor" in trigger && trigger.sensor !== undefined ? ` (${trigger.sensor satisfies SensorId})` : "";
  if ("arrives" in trigger) return `${names} arrives${by}`;
  if ("departs" in trigger) return `${names} departs${by}`;
  if ("present" in trigger) return `${names} is present${by}`;
  if ("nothingKnownFor" in trigger) return `nothing known for ${trigger.nothingKnownFor / 1000} s${by}`;
  if ("after" in trigger) return `after ${trigger.after / 1000} s in the mode`;
  if ("becomes" in trigger) return `as soon as ${printCondition(trigger.becomes)}`;
  return `while ${printCondition(trigger.holds)}`;
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
