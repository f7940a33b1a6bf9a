import { namesOf, parseStep, parseTrigger, type Response } from "../behaviour";
import {
  type CourseId,
  type LightId,
  type ModeId,
  numbered,
  type TapeId,
  type TargetId,
  type Unlisted,
} from "../names";
import { emptyProject, Project, type ProjectDocument } from "../project";
import { type Mark, unpackReadings } from "../readings";
import type { Rule } from "../rules";
import { type Course, emptyCourse, parseCheck, run, tapeOfRun } from "../world";

/** The cards, with what each means on the way. */
const CARDS = [
  { id: "coral", code: "CO", name: "Coral card", paint: "#e4573d", hue: [350, 20], sat: 0.8, val: 0.4, turn: "left" },
  { id: "teal", code: "TE", name: "Teal card", paint: "#12868a", hue: [165, 200], sat: 0.72, val: 0.15, turn: "right" },
  {
    id: "violet",
    code: "VI",
    name: "Violet card",
    paint: "#7a4bb5",
    hue: [245, 275],
    sat: 0.64,
    val: 0.25,
    turn: null,
  },
] as const;
/** What each card means: a turn, or none, and a leg. The wheels come to rest between, so that they do not slip. */
const stepsOf = (turn: "left" | "right" | null): string[] => [
  ...(turn === null ? [] : [`turn ${turn} 90 at 30 %`, "wait 0.2 s"]),
  "drive 30 % for 30 cm",
  "wait 0.2 s",
];

/**
 * The demo project *Route cards*: three cards shown to the cart's sensor are jotted down, then replayed in order as
 * turns and legs of a route. Made with fixed seeds; a test holds that its checks hold.
 */
export function routeCards(): Project {
  const base = emptyProject("Route cards");
  const target = (id: string) => id as TargetId;
  const rules = CARDS.map(
    ({ id, hue: [from, to], sat, val }): Rule => ({
      id: id as Rule["id"],
      target: target(id),
      on: true,
      any: numbered("clause", [
        {
          all: [
            { feature: "hue", from, to },
            { feature: "sat", from: sat },
            { feature: "val", from: val },
          ],
        },
      ]),
    }),
  );
  const course: Course = {
    ...emptyCourse("shed" as CourseId, "Potting shed", target("floor")),
    size: [2000, 1400],
    cards: numbered("card", [
      { target: target("coral"), atMs: 800, forMs: 700 },
      { target: target("violet"), atMs: 2200, forMs: 700 },
      { target: target("teal"), atMs: 3600, forMs: 700 },
    ]),
    zones: numbered("zone", [{ name: "Bench", shape: { rect: [260, 260] }, at: [720, 1000], angle: 0 }]),
    starts: numbered("start", [{ name: "Door", x: 400, y: 400, heading: 0 }]),
  };
  const bare: ProjectDocument = {
    ...base,
    sensors: [{ ...base.sensors[0], name: "Card sensor", id: "card-eye" as (typeof base.sensors)[0]["id"] }],
    lights: [...base.lights, { id: "dusk" as LightId, name: "Dusk", rgb: [1.1, 0.95, 0.82], level: 0.12 }],
    targets: [
      ...CARDS.map(({ id, code, name, paint }) => ({ id: target(id), code, name, kind: "card" as const, paint })),
      { id: target("air"), code: "ai", name: "Empty air", kind: "background", paint: "#141414" },
      ...base.targets,
    ],
    ruleSets: [{ ...base.ruleSets[0], id: "cards" as (typeof base.ruleSets)[0]["id"], name: "Cards", rules }],
    behaviour: { ...base.behaviour, lists: ["route"], start: "learn" as ModeId, modes: ["learn", "go"].map(modeOf) },
    robot: {
      ...base.robot,
      name: "Card cart",
      mounts: [{ sensor: "card-eye" as (typeof base.sensors)[0]["id"], x: 50, y: 0, z: 60, looks: "ahead" }],
    },
    courses: [course],
  };
  bare.sensors[0].ruleSet = bare.ruleSets[0].id;
  const document = withBehaviour(bare);
  const tapes = document.lights.map((light): Project["tapes"][0] => {
    const trace = run(document, { course: course.id, light: light.id, limitMs: 5000 });
    const id = `three-cards-${light.id}` as TapeId;
    const { head, readings } = tapeOfRun(trace, id, `Three cards, ${light.name.toLowerCase()}`);
    const marks = [...head.marks, ...airBetween(head.marks, light.id)].sort((a, b) => a.from - b.from);
    return { ...head, marks: numbered("mark", marks), readings: unpackReadings(readings) };
  });
  return Project.parse({ ...document, tapes });
}

/** Between the cards there is nothing before the sensor: that is marked as well, a little way from their edges. */
function airBetween(cards: readonly Mark[], light: LightId): Unlisted<Mark>[] {
  const ends = [0, ...cards.map((m) => m.to)];
  const begins = [...cards.map((m) => m.from), 5000];
  return ends.map((to, i) => ({ from: to + 100, to: begins[i] - 100, target: "air" as TargetId, light }));
}

const modeOf = (id: string) => ({
  id: id as ModeId,
  name: id === "learn" ? "Learn the route" : "Go the route",
  entering: [],
  responses: [],
});

function written<T>(result: { value: T } | { problem: { message: string } }): T {
  if ("problem" in result) throw new Error(result.problem.message);
  return result.value;
}

function withBehaviour(project: ProjectDocument): ProjectDocument {
  const names = namesOf(project);
  const steps = (...phrases: string[]) =>
    numbered(
      "step",
      phrases.map((phrase) => written(parseStep(phrase, names))),
    );
  const response = (id: string, when: string, phrases: readonly string[], more: Partial<Response> = {}): Response => ({
    id: id as Response["id"],
    when: written(parseTrigger(when, names)),
    steps: steps(...phrases),
    fires: "once per visit",
    busy: "let it finish",
    on: true,
    ...more,
  });
  const [learn, go] = project.behaviour.modes;
  const all = CARDS.map((card) => card.id).join(" or ");
  return {
    ...project,
    behaviour: {
      ...project.behaviour,
      modes: [
        {
          ...learn,
          responses: [
            response("note-it", `${all} arrives`, ["show seen", "tone C5 for 0.2 s", "jot to route"]),
            response("enough", "becomes route holds 3", ["wait 0.5 s"], { then: go.id }),
            response("give-up", "after 30 s", ['log "no three cards"'], { then: "finish" }),
          ],
        },
        {
          ...go,
          entering: steps("replay route in go", "stop", "finish"),
          responses: CARDS.map((card) => response(`on-${card.id}`, `${card.id} arrives`, stepsOf(card.turn))),
        },
      ],
    },
    courses: project.courses.map((course) => ({
      ...course,
      checks: numbered(
        "check",
        ["sees coral, violet, teal", 'ends in "Bench"', "finishes within 30 s"].map((phrase) =>
          written(parseCheck(phrase, names)),
        ),
      ),
    })),
  };
}
