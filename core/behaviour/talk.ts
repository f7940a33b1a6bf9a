import { capital, INPUT_KINDS, type Input } from "../phrases";
import { tellCondition } from "./conditions";
import type { Behaviour, Response } from "./schema";
import { type Step, tellStep } from "./steps";
import type { NameOf } from "./steps/StepKind";
import { tellTrigger } from "./triggers";

/** One mode (or routine) of a behaviour in plain sentences. */
export interface Talk {
  title: string;
  sentences: string[];
}

/** The whole behaviour as plain sentences, mode by mode, to read aloud. */
export function talkThrough(behaviour: Behaviour, nameOf: NameOf): Talk[] {
  const name: NameOf = (id) => behaviour.modes.find((m) => m.id === id)?.name ?? nameOf(id);
  const modes = behaviour.modes.map((mode): Talk => {
    const begins = mode.entering.length > 0 ? [`On entering, the robot does this: ${told(mode.entering, name)}.`] : [];
    const answers = mode.responses.filter((r) => r.on).map((r) => sentenceOf(r, name));
    const silent = begins.length + answers.length === 0 ? ["Nothing happens here."] : [];
    return {
      title: mode.id === behaviour.start ? `${mode.name}, where it starts` : mode.name,
      sentences: [...begins, ...answers, ...silent],
    };
  });
  const toldInput = ({ name: own, kind, value }: Input) =>
    `${own}, ${INPUT_KINDS[kind]} (${kind === "target" ? name(value) : value} where none is given)`;
  const routines = behaviour.routines.map(
    (routine): Talk => ({
      title: `The routine ${routine.id}`,
      sentences: [
        ...(routine.inputs === undefined ? [] : [`It takes ${routine.inputs.map(toldInput).join(", ")}.`]),
        `${capital(told(routine.steps, name) || "nothing")}.`,
      ],
    }),
  );
  return [...modes, ...routines];
}

const told = (steps: readonly Step[], name: NameOf) => steps.map((step) => tellStep(step, name)).join(", then ");

function sentenceOf({ when, guard, steps, then, fires, restMs, busy }: Response, name: NameOf): string {
  const only = guard === undefined ? "" : `, but only if ${tellCondition(guard, name)}`;
  const does = [
    ...(steps.length > 0 ? [told(steps, name)] : []),
    ...(then === undefined ? [] : [then === "finish" ? "finish" : `go on to ${name(then)}`]),
  ].join(", then ");
  const often =
    fires === "while present" ? ` Again and again${restMs ? `, every ${restMs / 1000} s at most` : ""}.` : "";
  const over = busy === "take over" ? " It breaks off whatever runs." : "";
  return `${capital(tellTrigger(when, name))}${only}: ${does || "do nothing"}.${often}${over}`;
}
