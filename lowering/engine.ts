import type { LoweredEngine } from "../core/code/engineParts";
import { actsIn } from "./acts";
import { constantsOf, lower } from "./lower";
import { World } from "./source";
import { FILES, GIVEN_FILES, KIND_FILES, read } from "./sources";

/** Structs whose fields stay as they are while a behaviour runs. */
const CONSTANT = ["Rows", "TriggerRows", "MachineRows", "NameRows", "References"];
/** Functions that a program for a robot may call. */
const ROOTS = [
  ...["startMoment", "endMoment", "holdDown", "labelTaken", "sightsTaken", "forget"],
  ...["timeOfLine", "openMoment", "idleBefore", "lived"],
  ...["sinOf", "cosOf", "hueOf", "satOf", "wrapHue", "channelOf", "lightOf", "chromaOf", "clampedShare"],
  ...["withinBand", "bandMargin", "hueMargin", "coneX", "coneY", "labelByReference", "referenceMargin"],
  ...["inFrame", "findBlob"],
];

/**
 * Reads what robots' code has of the core as it stands now: features, steadying, and the engine with all kinds of steps,
 * triggers and conditions, `more` files of kinds too. @throws NotPlain for what cannot be said in every language
 */
export function loweredEngine(more: readonly string[] = []): LoweredEngine {
  const world = new World([
    ...FILES.map(read),
    ...GIVEN_FILES.map((path) => ({ ...read(path), given: true as const })),
    ...[...KIND_FILES, ...more].map(read),
  ]);
  const { acts, endless, calls, fields, constants } = actsIn(world.files, world, CONSTANT);
  const lowered = lower(world, [...ROOTS, ...calls], CONSTANT);
  for (const { name } of lowered.constants) constants.add(name);
  const all = new Map([...fields, ...lowered.fields].map((field) => [field.name, field]));
  return { ...lowered, constants: constantsOf(world, constants), fields: [...all.values()], acts, endless };
}
