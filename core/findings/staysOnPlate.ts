import { answeredBy, factsOf, type Step, type Trigger, triggerKindOf } from "../behaviour";
import { machineOf, paintsOf, robotKindOf } from "../world";
import { type FindingKind, nameOf } from "./finding";
import { longestPatch } from "./patchSize";
import { drivenOff, exitsOf, leadsOn, movesAfter, stepLists } from "./stepsOf";

/** A response that stops the robot where nothing will ever set it going again. */
export const staysOnPlate: FindingKind = {
  code: "stays-on-plate",
  find({ project }) {
    const { behaviour, robot } = project;
    if (robotKindOf(robot).drive === undefined) return [];
    // Where things are held before the sensor, they come without the robot's going to them.
    const cards = new Set(project.targets.filter((t) => t.kind === "card").map((t) => t.id));
    for (const course of project.courses)
      for (const card of course.cards) for (const id of paintsOf(card.target)) cards.add(id);
    const lists = stepLists(behaviour);
    return behaviour.modes.flatMap((mode) => {
      // Where the steps are replayed from a list, or the mode passes by itself, others drive it on.
      const replayed = lists.some((list) => list.steps.some((s) => factsOf(s).replays === mode.id));
      if (replayed || leadsOn(behaviour, mode.entering)) return [];
      const on = mode.responses.filter((r) => r.on);
      // What can start by itself while the robot stands: time, a press or a count, but nothing that must come along.
      const starters = on.filter(({ when }) => triggerKindOf(when).comesByItself);
      return on.flatMap((response) => {
        const { when } = response;
        const answered = answeredBy(when);
        if (answered.length === 0 || response.then !== undefined) return [];
        if (on.some((r) => answeredBy(r.when).some(({ target }) => cards.has(target)))) return [];
        if (movesAfter(behaviour, response.steps) !== false) return [];
        if (leadsOn(behaviour, response.steps)) return [];
        // Driven off the plate, nothing known may be seen there, and what waits for that goes on.
        const longest = Math.max(...answered.map(({ target }) => longestPatch(project, target)));
        const isOff = drivenOff(behaviour, response.steps, machineOf(robot).topSpeed) > longest;
        const others = starters.filter((r) => r !== response && (isOff || goesOn(r.when)));
        if (others.some((r) => r.then !== undefined || movesAfter(behaviour, r.steps) === true)) return [];
        const names = answered.map(({ target }) => nameOf(project, target)).join(" or ");
        const speed = driveOf(mode.entering);
        const append: Step = { step: "drive", speed: speed ?? 0.3 };
        return [
          {
            code: "stays-on-plate" as const,
            level: "error" as const,
            title: `After ${names} the robot stops and never starts again`,
            sentence: `The answer ${isOff ? "stops it beyond the plate" : "stops it on the plate"}, and nothing in ${mode.name} drives it on${exitsOf(behaviour, mode.id).size > 0 ? " before something else is seen" : ""}.`,
            place: { stage: "act" as const, mode: mode.id, response: response.id },
            fix: { label: "Drive on", change: { at: { mode: mode.id, response: response.id }, append } },
          },
        ];
      });
    });
  },
};

/** Nothing known for a while is not to be had on a plate that is known. */
const goesOn = (when: Trigger) => !triggerKindOf(when).needsSilence;

/** The speed at which a mode sets out, if it does. */
function driveOf(entering: readonly Step[]): number | undefined {
  return entering.map((step) => factsOf(step).straightOn).findLast((speed) => speed !== undefined);
}
