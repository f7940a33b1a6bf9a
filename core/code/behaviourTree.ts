import {
  DONE,
  END,
  Engine,
  LineTime,
  MODE,
  ONLY_IF,
  PICTURE_NAMES,
  type Program,
  printStep,
  ROUTINE,
  type RobotSide,
  STAYS,
  WHEN,
} from "../behaviour";
import { oneLine, type TargetId } from "../names";
import type { ProjectDocument } from "../project";
import { FEATURES, isCamera, REPORT_KINDS } from "../readings";
import {
  type Fn,
  folded,
  name,
  namesIn,
  type Part,
  quietly,
  reached,
  readFns,
  type Statement,
  type Variable,
} from "../tree";
import { programOf } from "../world";
import { behaviourList, type OwnNumbers, ownNumbers } from "./behaviourList";
import { clarityFn } from "./clarityFn";
import { dispatchFns, ENGINE, fieldVariables, kindName } from "./engineParts";
import {
  type CodeEye,
  codeEyes,
  constant,
  DERIVED,
  eyeName,
  inputs,
  labelName,
  lasting,
  rulesParts,
  texts,
  WIRE,
  withoutIdle,
} from "./rulesTree";
import { robotFns, tellFns, troubleTexts } from "./tellFns";
import { visionPart } from "./visionTree";

/** A robot's side that hears nothing: nothing has happened yet. */
const DEAF = {} as RobotSide;

/** Kinds of rows that begin or end a part, and the way on to nowhere else, by the names of the engine's constants. */
const PARTS = { MODE, ROUTINE, WHEN, ONLY_IF, END, DONE, STAYS };

/** The behaviour of a project as a program: its rules, its rows, and the engine that runs them. */
class BehaviourCode {
  readonly eyes: readonly CodeEye[];
  private readonly engine: Engine;
  private readonly numbers: OwnNumbers;

  constructor(
    private readonly project: ProjectDocument,
    private readonly program: Program,
  ) {
    this.eyes = codeEyes(
      project,
      program.eyes.map(({ sensor }) => sensor),
    );
    this.engine = new Engine(program.rows, program.naming.kinds, DEAF);
    const taken = new Set([...ENGINE.constants, ...ENGINE.fields].map(({ name }) => name));
    this.numbers = ownNumbers(project, program, this.eyes, taken);
  }

  /** Where a camera's targets stand among what is steadied. */
  sightsOf(eye: number): number {
    return this.engine.p.machine.sightsAt[eye];
  }

  /** All parts of the program, the project's first. */
  parts(looks: boolean): Part[] {
    const { program, project, engine } = this;
    const { p } = engine;
    const [targets, rules] = rulesParts(project, this.eyes);
    const own: Part[] = [
      targets,
      rules,
      {
        heading: "What the robot does: a line for each step, with its phrase",
        variables: [
          { ...texts("TEXTS", p.names.texts), inList: true },
          { ...constant("ROWS", "num", Array.from(p.rows)), list: behaviourList(project, program, this.numbers) },
        ],
        fns: [],
      },
      { heading: "What the numbers are called", variables: this.names(), fns: [] },
      {
        heading: "What is read",
        variables: [
          ...this.featuresAsked().map(([variable]) => lasting(variable, "num", Number.NaN)),
          lasting("has_read", "bool", new Array<boolean>(this.eyes.length).fill(false)),
        ],
        fns: [...this.eyes.map((eye) => this.take(eye)), ...this.asked()],
      },
      ...(looks ? visionPart(project, this.eyes, (eye) => this.sightsOf(eye)) : []),
    ];
    const fields = fieldVariables({
      Engine: engine,
      Steadying: engine.steadying,
      Rows: p,
      MachineRows: p.machine,
      NameRows: p.names,
      LineTime: new LineTime(),
    });
    const known = new Map(
      fields.flatMap(({ name, type, constant, value }) =>
        constant && type === "bool" ? [[name, value as boolean] as const] : [],
      ),
    );
    const names = new Set(own.flatMap(({ variables }) => variables.map((variable) => variable.name)));
    const variables = [...ENGINE.constants, ...fields].filter((variable) => !names.has(variable.name));
    const run = [...ENGINE.fns.map((fn) => folded(fn, known)), ...dispatchFns(program.naming.numbers)];
    // Truths wait in as many places as a condition may have parts.
    const made = variables.map((variable) =>
      variable.name === "truths" ? { ...variable, value: new Array<number>(this.mostParts()).fill(0) } : variable,
    );
    const engineOf = (tells: readonly Fn[]): Part[] => [
      ...own,
      { heading: "The engine", variables: made, fns: [...run, ...tells] },
      { variables: [], fns: [], given: robotFns() },
    ];
    // What is never told of is not written.
    const goneBy = new Set(
      reached(engineOf(tellFns(() => false)), this.roots(looks)).flatMap(({ fns }) =>
        fns.flatMap((fn) => [...namesIn(fn)]),
      ),
    );
    return engineOf(tellFns((own) => goneBy.has(own)));
  }

  /** Names of the engine's numbers. */
  private names(): Variable[] {
    const { program } = this;
    const { naming } = program;
    const steps = [...naming.stepAt];
    return [
      texts(
        "IDS_OF_EYES",
        this.eyes.map(({ sensor }) => sensor.id),
      ),
      texts(
        "IDS_OF_MODES",
        program.modes.map(({ mode }) => mode.id),
      ),
      texts("IDS_OF_RESPONSES", program.responses),
      texts("IDS_OF_COUNTERS", naming.counters),
      texts("IDS_OF_LISTS", naming.lists),
      texts("IDS_OF_BUTTONS", naming.buttons),
      texts("IDS_OF_LAMPS", naming.lamps),
      texts("IDS_OF_SERVOS", naming.servos),
      texts("IDS_OF_GATES", naming.gates),
      texts("IDS_OF_CRATES", naming.crates),
      texts("PICTURES", PICTURE_NAMES),
      ...troubleTexts(program),
      ...[...naming.numbers].map(([kind, number]) => constant(kindName(kind), "int", number)),
      ...Object.entries(PARTS).map(([part, kind]) => constant(part, "int", kind)),
      ...[...this.numbers.constants].map(([own, number]) => constant(own, "int", number)),
      constant("STEPS", "int", steps.length),
      constant("STEP_AT", "int", steps.length === 0 ? [0] : steps.map(([at]) => at)),
      texts(
        "PHRASES",
        steps.map(([, step]) => printStep(step)),
      ),
    ];
  }

  /** The features of sensors that rows go by, each with its variable. */
  private featuresAsked(): [variable: string, asked: { eye: number; feature: (typeof FEATURES)[number] }][] {
    const reports = (eye: number, feature: (typeof FEATURES)[number]) => {
      const sensor = this.eyes[eye]?.sensor;
      return sensor !== undefined && !isCamera(sensor) && REPORT_KINDS[sensor.reports].features.includes(feature);
    };
    const all = new Map<string, { eye: number; feature: (typeof FEATURES)[number] }>();
    const add = (eye: number, feature: (typeof FEATURES)[number]) => {
      if (reports(eye, feature)) all.set(`feature_${this.eyes[eye].own}_${feature}`, { eye, feature });
    };
    for (const { eye, feature } of this.program.naming.featuresAsked.values()) add(eye, feature);
    for (const { eye, target } of this.program.naming.claritiesAsked.values())
      if (eye >= 0 && !isCamera(this.eyes[eye].sensor)) this.clarityText(eye, target, (feature) => add(eye, feature));
    return [...all];
  }

  /** The function of how clearly a sensor's newest reading is of a target. */
  private clarityText(eye: number, target: TargetId, asks: (feature: (typeof FEATURES)[number]) => void): string {
    const own = this.eyes[eye];
    const reported = REPORT_KINDS[own.sensor.reports].features;
    return clarityFn(this.clarityName(eye, target), own, target, labelName, (feature) => {
      asks(feature);
      return reported.includes(feature) ? `feature_${own.own}_${feature}` : "nan";
    });
  }
  private clarityName(eye: number, target: TargetId): string {
    return `clarity_${eye}_of_${this.program.targets.indexOf(target) + 1}`;
  }

  /** Functions by which the engine asks of readings: features, and how clear they are. */
  private asked(): Fn[] {
    const { naming, targets } = this.program;
    const clear = [...naming.claritiesAsked.values()].filter(({ eye }) => eye >= 0 && !isCamera(this.eyes[eye].sensor));
    const features = this.featuresAsked().flatMap(([variable, { eye, feature }]) => [
      `  if eye == ${eye} and feature == ${FEATURES.indexOf(feature)}`,
      `    return ${variable}`,
    ]);
    const clarities = clear.flatMap(({ eye, target }) => [
      `  if eye == ${eye} and label == ${targets.indexOf(target) + 1}`,
      `    return ${this.clarityName(eye, target)}()`,
    ]);
    return readFns(`fn feature_of(eye: int, feature: int): num
  "A feature of the newest reading of a sensor; nan before the first, and where it does not report it."
${features.join("\n")}
  return nan

fn clarity_of(eye: int, label: int): num
  "How clearly the newest reading of a sensor is of a target, -1 to 1; nan before the first."
${clarities.join("\n")}
  return nan

${clear.map(({ eye, target }) => this.clarityText(eye, target, () => undefined)).join("\n")}`);
  }

  /** `take_…`: a reading of a sensor, or a frame of a camera whose blobs are known. */
  private take(eye: CodeEye): Fn {
    const { sensor, own } = eye;
    const of = oneLine(sensor.name);
    if (isCamera(sensor))
      return readFns(`fn take_${own}()
  "Takes in a frame of ${quietly(of)}, whose largest blobs stand in blobs."
  if not is_asleep
    sights_taken(${eye.index})
`)[0];
    const kind = REPORT_KINDS[sensor.reports];
    const takes = kind.channels.map((_, i) => WIRE[i]);
    const wanted = this.featuresAsked().filter(([, asked]) => asked.eye === eye.index);
    const [fn] = readFns(`fn take_${own}(${takes.map((channel) => `${channel}: num`).join(", ")})
  "Takes in one raw reading of ${quietly(of)} in wire order."
  if is_asleep
    return
  label_taken(${eyeName(sensor)}, classify_${own}(${takes.join(", ")}))
`);
    const features: Statement[] = wanted.map(([variable, { feature }]) => {
      const value = (kind.features.includes("val") && DERIVED[feature]) || name(feature);
      return { does: "set", place: name(variable), value };
    });
    const read: Statement[] = [
      {
        does: "set",
        place: { is: "at", array: "has_read", index: name(eyeName(sensor)) },
        value: { is: "bool", value: true },
      },
    ];
    const isClear = [...this.program.naming.claritiesAsked.values()].some((asked) => asked.eye === eye.index);
    const [first, ...rest] = fn.body;
    return {
      ...fn,
      body: [
        first,
        ...(features.length > 0 ? withoutIdle([...inputs(sensor), ...features]) : []),
        ...(isClear ? read : []),
        ...rest,
      ],
    };
  }

  /** The most parts that a condition has, all rows counted. */
  private mostParts(): number {
    return Math.max(1, ...this.program.naming.conditionSizes);
  }

  /** What a program may be asked from outside; `looks`: whether it finds a camera's blobs itself. */
  roots(looks: boolean): string[] {
    const hasCameras = this.eyes.some(({ sensor }) => isCamera(sensor));
    return [
      ...(looks
        ? this.eyes.flatMap(({ own, sensor }) => (isCamera(sensor) ? [`look_${own}`, "frame_bytes"] : []))
        : []),
      ...["start_moment", "end_moment", "press", "pressed", "now", "seen", "has_finished"],
      ...["IDS_OF_EYES", "IDS_OF_BUTTONS", "IDS_OF_MODES"],
      // The words of the list go by these.
      ...Object.keys(PARTS),
      // The robot's side goes by these.
      ...(hasCameras ? ["blobs", "BLOB_CELLS", "NAMES"] : []),
      ...this.eyes.map(({ own }) => `take_${own}`),
    ];
  }
}

/** The parts of a project's rules and behaviour, what of them may be asked for, and where a camera's targets are steadied. */
export function behaviourParts(
  project: ProjectDocument,
  looks: boolean,
): {
  parts: Part[];
  roots: string[];
  eyes: readonly CodeEye[];
  sights: (eye: number) => number;
} {
  const code = new BehaviourCode(project, programOf(project));
  return { parts: code.parts(looks), roots: code.roots(looks), eyes: code.eyes, sights: (eye) => code.sightsOf(eye) };
}
