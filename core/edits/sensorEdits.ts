import { Name, SensorIdSchema } from "../names";
import { emptyProject, inUse, type ProjectDocument, tellUses } from "../project";
import { Sensor, Strip } from "../readings";
import { changed, without, withThing } from "./change";
import { editKind } from "./editKind";
import { nameIn } from "./words";

/** A rule set without rules, for a sensor that is to have its own. */
const OwnRules = { ownRules: Name.optional() };

/** The project with a rule set for a sensor, where it is to have one of its own. */
const withRules = (project: ProjectDocument, { ruleSet }: Pick<Sensor, "ruleSet">, name: string | undefined) =>
  name === undefined
    ? project
    : { ...project, ruleSets: [...project.ruleSets, { ...emptyProject("").ruleSets[0], id: ruleSet, name }] };

export const addSensor = editKind(
  { sensor: Sensor, ...OwnRules },
  {
    words: ({ sensor }) => `${sensor.name} added`,
    apply(project, { sensor, ownRules }) {
      const made = withRules(project, sensor, ownRules);
      return { ...made, sensors: [...made.sensors, sensor] };
    },
  },
);

/** A sensor in the place of the one that has its id. */
export const replaceSensor = editKind(
  { sensor: Sensor, ...OwnRules },
  {
    words: ({ sensor }) => `${sensor.name} changed`,
    apply(project, { sensor, ownRules }) {
      const made = withRules(project, sensor, ownRules);
      return { ...made, sensors: withThing(made.sensors, sensor.id, () => sensor) };
    },
  },
);

/** The readings over white and in the dark; null: there are none. */
export const setWhiteDark = editKind(
  { sensor: SensorIdSchema, reference: Sensor.shape.reference.unwrap().nullable() },
  {
    words: ({ sensor, reference }, { sensors }) =>
      `white and dark of ${nameIn(sensors, sensor)} ${reference === null ? "dropped" : "taken"}`,
    apply: (project, { sensor, reference }) => ({
      ...project,
      sensors: withThing(project.sensors, sensor, (one) => changed(one, { reference })),
    }),
  },
);

/** The part of a camera’s frame that counts; null: all of it. */
export const setStrip = editKind(
  { sensor: SensorIdSchema, strip: Strip.nullable() },
  {
    words: () => "strip moved",
    gathers: ({ sensor }) => sensor,
    refused({ sensor, strip }, { sensors }) {
      const frame = sensors.find(({ id }) => id === sensor)?.frame;
      if (frame === undefined) return "Only a camera has a strip.";
      if (strip === null || (strip.right <= frame.width && strip.bottom <= frame.height)) return undefined;
      return `The strip lies in the frame of ${frame.width} × ${frame.height} px.`;
    },
    apply: (project, { sensor, strip }) => ({
      ...project,
      sensors: withThing(project.sensors, sensor, (one) => changed(one, { strip })),
    }),
  },
);

export const deleteSensor = editKind(
  { sensor: SensorIdSchema },
  {
    words: ({ sensor }, { sensors }) => `${nameIn(sensors, sensor)} deleted`,
    refused: ({ sensor }, project) =>
      inUse(nameIn(project.sensors, sensor), tellUses(project, "sensor", sensor)) ??
      (project.sensors.length === 1 ? "A project needs a sensor." : undefined),
    apply: (project, { sensor }) => ({ ...project, sensors: without(project.sensors, sensor) }),
  },
);
