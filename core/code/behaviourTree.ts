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
import { FEATURES, type Feature, isCamera, REPORT_KINDS } from "../readings";
import {
  type Assignable,
  allOf,
  type Expr,
  type Fn,
  folded,
  int,
  knownOf,
  name,
  namesIn,
  op,
  type Part,
  quietly,
  reached,
  readFns,
  type Statement,
  type Variable,
} from "../tree";
import { programOf } from "../world";
import { behaviourList, type OwnNumbers, ownNumbers } from "./behaviourList";
import { clarityTree } from "./clarityTree";
import { dispatchFns, ENGINE, fieldVariables, kindName } from "./engineParts";
import {
  type CodeEye,
  codeEyes,
  constant,
  eyeName,
  labelName,
  lasting,
  putFeatures,
  ReferenceRows,
  rulesParts,
  texts,
  WIRE,
} from "./rulesTree";
import { robotFns, tellFns, troubleTexts } from "./tellFns";
import { visionPart } from "./visionTree";

/** A robot's side that hears nothing: nothing has happened yet. */
const DEAF = {} as RobotSide;

/** Kinds of rows that begin or end a part, and the way on to nowhere else, by the names of the engine's constants. */
const PARTS = { MODE, ROUTINE, WHEN, ONLY_IF, END, DONE, STAYS };

/** The place of a feature of a sensor's newest reading. */
const featureAt = (eye: number, feature: Feature): Assignable => ({
  is: "at",
  array: "features",
  index: int(eye * FEATURES.length + FEATURES.indexOf(feature)),
});

/** The behaviour of a project as a program: its rules, its rows, and the engine that runs them. */
class BehaviourCode {
  readonly eyes: readonly CodeEye[];
  private readonly engine: Engine;
  private readonly numbers: OwnNumbers;
  private readonly references: ReferenceRows;

  constructor(
    private readonly project: ProjectDocument,
    private readonly program: Program,
  ) {
    this.eyes = codeEyes(
      project,
      program.eyes.map(({ sensor }) => sensor),
    );
    this.references = new ReferenceRows(project, this.eyes);
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
    const [targets, rules] = rulesParts(project, this.eyes, this.references);
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
          lasting("features", "num", new Array<number>(this.eyes.length * FEATURES.length).fill(Number.NaN)),
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
      TriggerRows: p.triggers,
      MachineRows: p.machine,
      NameRows: p.names,
      LineTime: new LineTime(),
    });
    // The rows are a person's to change: what they say is not known.
    const known = knownOf([...ENGINE.constants, ...fields].filter(({ name }) => name !== "ROWS"));
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

  /** The sensors and targets of which is asked how clearly a reading is of them; of a camera's pixels nobody asks. */
  private clarities(): { eye: number; target: TargetId }[] {
    const all = [...this.program.naming.claritiesAsked.values()];
    return all.filter(({ eye }) => eye >= 0 && !isCamera(this.eyes[eye].sensor));
  }

  private clarity(eye: number, target: TargetId, feature: (feature: Feature) => Expr): Expr {
    return clarityTree(this.eyes[eye], target, feature, this.references);
  }

  /** The features of a sensor's readings that rows go by, as far as it reports them. */
  private featuresOf({ index, sensor }: CodeEye): Feature[] {
    const asked = new Set<Feature>();
    for (const { eye, feature } of this.program.naming.featuresAsked.values()) if (eye === index) asked.add(feature);
    for (const { eye, target } of this.clarities())
      if (eye === index)
        this.clarity(eye, target, (feature) => {
          asked.add(feature);
          return name("nan");
        });
    return REPORT_KINDS.get(sensor.reports).features.filter((feature) => asked.has(feature));
  }

  /** Functions by which the engine asks of readings: features, and how clear they are. */
  private asked(): Fn[] {
    const [featureOf, clarityOf] = readFns(`fn feature_of(eye: int, feature: int): num
  "A feature of the newest reading of a sensor; nan before the first, and where it does not report it."
  return nan if eye < 0 else features[eye * ${FEATURES.length} + feature]

fn clarity_of(eye: int, label: int): num
  "How clearly the newest reading of a sensor is of a target, -1 to 1; nan before the first."
  if eye < 0 or not has_read[eye]
    return nan
`);
    const clarities = this.clarities().map(
      ({ eye, target }): Statement => ({
        does: "if",
        test: allOf([
          op(name("eye"), "==", name(eyeName(this.eyes[eye].sensor))),
          op(name("label"), "==", name(labelName(target))),
        ]),
        then: [{ does: "return", value: this.clarity(eye, target, (feature) => featureAt(eye, feature)) }],
        otherwise: [],
      }),
    );
    return [
      featureOf,
      { ...clarityOf, body: [...clarityOf.body, ...clarities, { does: "return", value: name("nan") }] },
    ];
  }

  /** `take_…`: a reading of a sensor, or a frame of a camera whose blobs are known. */
  private take(eye: CodeEye): Fn {
    const { sensor, own, index } = eye;
    const of = oneLine(sensor.name);
    if (isCamera(sensor))
      return readFns(`fn take_${own}()
  "Takes in a frame of ${quietly(of)}, whose largest blobs stand in blobs."
  if not is_asleep
    sights_taken(${index})
`)[0];
    const takes = REPORT_KINDS.get(sensor.reports).channels.map((_, i) => WIRE[i]);
    const [fn] = readFns(`fn take_${own}(${takes.map((channel) => `${channel}: num`).join(", ")})
  "Takes in one raw reading of ${quietly(of)} in wire order."
  if is_asleep
    return
  has_read[${eyeName(sensor)}] = true
  label_taken(${eyeName(sensor)}, classify_${own}(${takes.join(", ")}))
`);
    const wanted = this.featuresOf(eye).map((feature) => ({ feature, place: featureAt(index, feature) }));
    const [sleeps, read, taken] = fn.body;
    const isClear = this.clarities().some((asked) => asked.eye === index);
    return {
      ...fn,
      body: [sleeps, ...(wanted.length > 0 ? putFeatures(sensor, wanted) : []), ...(isClear ? [read] : []), taken],
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
