import {
  answeredBy,
  type Coding,
  type Condition,
  conditionKindOf,
  GATE_RESERVE,
  kindOf,
  MAIN_LAMP,
  MOST_JOTTED,
  MOST_NESTED,
  needOf,
  type Program,
  type ProgramMode,
  phraseWords,
  printStep,
  type Step,
  type StepCode,
  type Trigger,
  triggerKindOf,
} from "../behaviour";
import { oneLine, type TargetId, UNKNOWN } from "../names";
import type { ProjectDocument } from "../project";
import { type Feature, isCamera, REPORT_KINDS } from "../readings";
import { type Fn, name, type Part, quietly, readFns, type Statement, type Variable } from "../tree";
import { BLOB_ORDER, type Blob } from "../vision";
import { programOf } from "../world";
import { clarityFn } from "./clarityFn";
import { engineFns, type Needs, robotFns } from "./engineFns";
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
  WIRE,
  withoutIdle,
  word,
} from "./rulesTree";
import { visionPart } from "./visionTree";

/** Pieces under way to their gates. */
const MOST_SENT = 100;
/** A name as an identifier's last part, in capitals. */
const capitals = (id: string) => word(id).toUpperCase();

/** A behaviour as code: writes down what it names, and keeps what it needs for that. */
class BehaviourCode implements Coding {
  readonly eyes: readonly CodeEye[];
  readonly lamps: readonly string[];
  readonly trackMm: number;
  readonly wheelMm: number;
  /** Every lamp and servo that a step may name. */
  readonly allLamps: string[] = [MAIN_LAMP];
  readonly allServos: string[] = [];
  readonly allCounters: string[];
  readonly allLists: string[];
  readonly allButtons: string[];
  /** Steps one after the other: of each mode's beginning, of each response, of each routine. */
  readonly sequences: readonly (readonly Step[])[];
  /** The steps that run beside others, with what they do. */
  readonly besides: { step: Step; code: StepCode; endless: boolean }[] = [];
  readonly tones: { hertz: number; ms: number }[] = [];
  readonly features = new Map<string, { eye: CodeEye; feature: Feature }>();
  readonly clarities = new Map<string, string>();
  /** How many steps stand in sequences. */
  readonly stepCount: number;
  readonly responses: { mode: number; response: ProgramMode["responses"][number] }[];
  private readonly cameras: readonly number[];

  constructor(
    readonly project: ProjectDocument,
    readonly program: Program,
  ) {
    this.eyes = codeEyes(
      project,
      program.eyes.map(({ sensor }) => sensor),
    );
    this.lamps = program.lamps;
    this.trackMm = program.trackMm;
    this.wheelMm = program.wheelMm;
    this.allCounters = [...program.counters];
    this.allLists = [...program.lists];
    this.allButtons = [...project.robot.buttons];
    this.cameras = program.eyes.flatMap(({ sensor }, i) => (isCamera(sensor) ? [i] : []));
    const modes = [...program.modes.values()];
    this.responses = modes.flatMap(({ responses }, mode) => responses.map((response) => ({ mode, response })));
    this.sequences = [
      ...modes.map(({ mode }) => mode.entering),
      ...this.responses.map(({ response: { response } }) => response.steps),
      ...project.behaviour.routines.map(({ steps }) => steps),
    ];
    this.stepCount = this.sequences.reduce((sum, steps) => sum + steps.length, 0);
  }

  /** Where a camera's targets stand among what is steadied. */
  sightsOf(eye: number): number {
    return this.eyes.length + this.cameras.indexOf(eye) * this.program.targets.length;
  }
  get hasCameras(): boolean {
    return this.cameras.length > 0;
  }
  /** The rule sets of what is steadied beside the sensors: every target of each camera. */
  get sights() {
    return this.cameras.flatMap((eye) => this.program.targets.map(() => this.eyes[eye].ruleSet));
  }

  label(target: TargetId | typeof UNKNOWN): string {
    return target === UNKNOWN ? "LABEL_UNKNOWN" : labelName(target);
  }
  eye(sensor?: string): number {
    return sensor === undefined ? 0 : this.program.eyes.findIndex(({ id }) => id === sensor);
  }
  private isCamera(eye: number): boolean {
    return this.cameras.includes(eye);
  }
  sees(target: TargetId | typeof UNKNOWN, sensor?: string): string {
    const eye = this.eye(sensor);
    if (eye < 0) return String(target === UNKNOWN);
    if (target === UNKNOWN || !this.isCamera(eye)) return `${this.seen(sensor)} == ${this.label(target)}`;
    return `seen[${this.sightsOf(eye)} + ${this.label(target)} - 1] != 0`;
  }
  seen(sensor?: string): string {
    const eye = this.eye(sensor);
    if (eye < 0) return "LABEL_UNKNOWN";
    return this.isCamera(eye) ? `first_sight(${this.sightsOf(eye)})` : `seen[${this.eyeName(eye)}]`;
  }
  eyeName(eye: number): string {
    return eyeName(this.eyes[eye].sensor);
  }
  visit(eye: number, label: string): string {
    if (!this.isCamera(eye)) return `visit[${this.eyeName(eye)}]`;
    return `visit[${this.sightsOf(eye)} + ${label} - 1] * 256 + ${label}`;
  }
  feature(feature: Feature, sensor?: string): string {
    const eye = this.eyes[sensor === undefined ? (this.program.reporting.get(feature) ?? -1) : this.eye(sensor)];
    if (eye === undefined || isCamera(eye.sensor) || !REPORT_KINDS[eye.sensor.reports].features.includes(feature))
      return "nan";
    const own = `feature_${eye.own}_${feature}`;
    this.features.set(own, { eye, feature });
    return own;
  }
  clarity(target: TargetId, sensor?: string): string {
    const eye = this.eyes[this.eye(sensor)];
    if (eye === undefined || isCamera(eye.sensor)) return "nan";
    const own = `clarity_${eye.index}_of_${this.program.targets.indexOf(target) + 1}`;
    if (!this.clarities.has(own))
      this.clarities.set(
        own,
        clarityFn(
          own,
          eye,
          target,
          (other) => this.label(other),
          (feature) => this.feature(feature, eye.sensor.id),
        ),
      );
    return `${own}()`;
  }
  blob(target: TargetId, field: keyof Blob, sensor?: string): string {
    const own = (eye: number) =>
      `blob_of(${eye}, ${this.sightsOf(eye)}, ${this.label(target)}, ${BLOB_ORDER.indexOf(field)})`;
    if (sensor !== undefined) {
      const eye = this.eye(sensor);
      return this.isCamera(eye) ? own(eye) : "nan";
    }
    // Where none is named, the first camera of which a frame has come.
    return this.cameras.reduceRight(
      (rest, eye, i) => (i === this.cameras.length - 1 ? own(eye) : `(${own(eye)} if frame_came[${eye}] else ${rest})`),
      "nan",
    );
  }
  private place(all: string[], one: string): number {
    const at = all.indexOf(one);
    return at < 0 ? all.push(one) - 1 : at;
  }
  counter(counter: string): string {
    return `COUNTER_${capitals(this.allCounters[this.place(this.allCounters, counter)])}`;
  }
  list(list: string): string {
    return `LIST_${capitals(this.allLists[this.place(this.allLists, list)])}`;
  }
  button(button: string): string {
    return `pressed[BUTTON_${capitals(this.allButtons[this.place(this.allButtons, button)])}]`;
  }
  mode(mode: string): string {
    return `MODE_${capitals(mode)}`;
  }
  routine(routine: string): string {
    const all = this.project.behaviour.routines;
    return String(this.program.modes.size + this.responses.length + all.findIndex(({ id }) => id === routine));
  }
  lamp(lamp: string): string {
    return String(this.place(this.allLamps, lamp));
  }
  servo(servo: string): string {
    return String(this.place(this.allServos, servo));
  }
  servoReaches(servo: string, degrees: number): number {
    const [from, to] = this.program.servoRanges.get(servo) ?? [degrees, degrees];
    return Math.max(from, Math.min(to, degrees));
  }
  gate(gate: string): string {
    return String(this.place(this.allGates, gate));
  }
  get gates() {
    return this.program.belt?.gates ?? [];
  }
  private gateIds: string[] | undefined;
  get allGates(): string[] {
    this.gateIds ??= this.gates.map(({ id }) => id);
    return this.gateIds;
  }
  crate(crate: string): string | null {
    const { belt } = this.program;
    return belt === undefined || crate === belt.end ? null : String(this.crates.indexOf(crate));
  }
  get crates(): string[] {
    return [...new Set(this.gates.map((gate) => gate.crate))];
  }
  paintOf(target: string): string {
    return this.program.paints.get(target) ?? "#000000";
  }
  condition(condition: Condition): string {
    return conditionKindOf(condition).code(condition, this);
  }
  beside(step: { step: string }): string {
    const own = step as Step;
    this.besides.push({ step: own, code: kindOf(own).code(own, this), endless: kindOf(own).endless?.(own) ?? false });
    return String(this.stepCount + this.besides.length - 1);
  }
  tune(tones: readonly { hertz: number; ms: number }[]): string {
    this.tones.push(...tones);
    return String(this.tones.length - tones.length);
  }

  /** A step within a sequence as code; what has no end of its own runs beside the steps that follow. */
  private stepCode(step: Step): StepCode & { skipped: boolean } {
    const note = `robot_note("step", ${JSON.stringify(printStep(step))}, "", "", 0.0)`;
    const need = needOf(step);
    if (need !== undefined && !this.program.can.has(need)) {
      const trouble = 'robot_note("trouble", "this robot cannot do that; the step was skipped", "", "", 0.0)';
      return { begin: `${note}\n${trouble}`, skipped: true };
    }
    if (kindOf(step).endless?.(step)) return { begin: `${note}\nbeside(${this.beside(step)})`, skipped: false };
    const code = kindOf(step).code(step, this);
    return { ...code, begin: code.begin === undefined ? note : `${note}\n${code.begin}`, skipped: false };
  }

  /** All parts of the program, the project's first. */
  parts(): Part[] {
    const { program, project } = this;
    const words = phraseWords(project);
    const modes = [...program.modes.values()];
    const routes = new Dispatches();
    const skipped: boolean[] = [];
    let s = 0;
    /** The functions of a step, with its phrase. */
    const stepFns = (number: number, phrase: string, { begin, during, ended, end }: StepCode): string => {
      const fns: [phase: string, gives: string, code: string | undefined][] = [
        ["begin", "", begin],
        ["during", "", during],
        ["ended", ": bool", ended === undefined ? undefined : `return ${ended}`],
        ["end", "", end],
      ];
      let first = true;
      return fns
        .flatMap(([phase, gives, code]) => {
          if (code === undefined) return [];
          routes.add(phase, number, `${phase}_${number}()`);
          const doc = first ? phrase : `${phrase}: ${PHASES[phase]}`;
          first = false;
          return [fnText(`${phase}_${number}()${gives}`, doc, code)];
        })
        .join("\n");
    };
    const sequenceFns = (steps: readonly Step[]): string =>
      steps
        .map((step) => {
          const { skipped: isSkipped, ...code } = this.stepCode(step);
          skipped.push(isSkipped);
          return stepFns(s++, words.step(step), code);
        })
        .join("\n");
    // In the order of their numbers: the modes' beginnings, the responses, the routines.
    const entering = modes.map(({ mode }) => sequenceFns(mode.entering));
    const answers = this.responses.map(({ response: { response } }, r) => {
      const { when, guard, then } = response;
      routes.add("when", r, `when_${r}()`);
      const title = [
        words.trigger(when),
        ...(guard === undefined ? [] : [`only if ${words.condition(guard)}`]),
        ...(then === undefined ? [] : [`then ${then === "finish" ? then : `go to ${words.show("mode", then)}`}`]),
      ].join("; ");
      const judged = fnText(`when_${r}(): num`, title, triggerKindOf(when).code(when as Trigger, this));
      const guarded =
        guard === undefined
          ? ""
          : fnText(`only_if_${r}(): bool`, `only if ${words.condition(guard)}`, `return ${this.condition(guard)}`);
      if (guard !== undefined) routes.add("only_if", r, `only_if_${r}()`);
      return [judged, guarded, sequenceFns(response.steps)].join("\n");
    });
    const routines = project.behaviour.routines.map(({ steps }) => sequenceFns(steps));
    const beside = this.besides.map(({ step, code }, i) =>
      stepFns(this.stepCount + i, `meanwhile ${words.step(step)}`, code),
    );
    const ownParts: Part[] = [
      ...modes.map(
        ({ mode }, m): Part => ({
          heading: `Mode ${oneLine(mode.name)}`,
          variables: [],
          fns: readFns([entering[m], ...answers.filter((_, r) => this.responses[r].mode === m)].join("\n")),
        }),
      ),
      ...project.behaviour.routines.map(
        (routine, i): Part => ({
          heading: `Routine ${oneLine(routine.name)}`,
          variables: [],
          fns: readFns(routines[i]),
        }),
      ),
      ...(beside.length === 0
        ? []
        : [{ heading: "Steps that run beside the others", variables: [], fns: readFns(beside.join("\n")) }]),
    ];
    const [targets, ...rules] = rulesParts(project, this.eyes, this.sights);
    const features = rules.pop() as Part;
    return [
      { ...targets, variables: [...targets.variables, ...this.names()] },
      ...rules,
      ...ownParts,
      { heading: "Which number is which", variables: this.tables(skipped), fns: routes.fns(this.replays()) },
      features,
      {
        heading: "What is read",
        variables: [...this.features.keys()].map((own) => lasting(own, "num", Number.NaN)),
        fns: [...this.eyes.map((eye) => this.take(eye)), ...readFns([...this.clarities.values()].join("\n"))],
      },
      ...visionPart(project, this.eyes, (eye) => this.sightsOf(eye)),
      { heading: "The engine", variables: this.state(), fns: [...engineFns(this.needs()), this.press()] },
      { variables: [], fns: [], given: robotFns },
    ];
  }

  private needs(): Needs {
    const steps = this.sequences.flat();
    const replays = steps.some((step) => step.step === "replay");
    return {
      belt: this.program.belt !== undefined,
      byTravel: this.program.goesByTravel,
      besides: this.besides.length > 0,
      pushes: replays || steps.some((step) => step.step === "do"),
      replays,
    };
  }

  /** Names and numbers of what the project names. */
  private names(): Variable[] {
    const ids = (prefix: string, all: readonly string[]) =>
      all.map((id, i) => constant(`${prefix}_${capitals(id)}`, "int", i));
    return [
      ...ids("MODE", [...this.program.modes.keys()]),
      ...ids("COUNTER", this.allCounters),
      ...ids("LIST", this.allLists),
      ...ids("BUTTON", this.allButtons),
    ];
  }

  /** What is known of each step, response and gate by its number. */
  private tables(skipped: readonly boolean[]): Variable[] {
    const { program, responses } = this;
    const starts: number[] = [];
    let at = 0;
    for (const steps of this.sequences) {
      starts.push(at);
      at += steps.length;
    }
    const firsts = [...program.modes.keys()].map((_, m) => responses.filter(({ mode }) => mode < m).length);
    const modeIds: string[] = [...program.modes.keys()];
    const judged = (of: (judge: (typeof responses)[number]["response"]) => boolean) =>
      orNone(
        responses.map(({ response }) => of(response)),
        false,
      );
    const belt = program.belt;
    const { gates } = this;
    const ofGates = (of: (gate: (typeof gates)[number]) => number) =>
      orNone(
        this.allGates.map((id) => {
          const gate = gates.find((g) => g.id === id);
          return gate === undefined ? -1 : of(gate);
        }),
        0,
      );
    return [
      constant(
        "IDS_OF_EYES",
        "text",
        this.eyes.map(({ sensor }) => sensor.id),
      ),
      constant("IDS_OF_MODES", "text", [...this.program.modes.keys()]),
      constant(
        "IDS_OF_RESPONSES",
        "text",
        orNone(
          this.responses.map(({ response }): string => response.response.id),
          "",
        ),
      ),
      constant("IDS_OF_COUNTERS", "text", orNone(this.allCounters, "")),
      constant("IDS_OF_LISTS", "text", orNone(this.allLists, "")),
      constant("IDS_OF_BUTTONS", "text", orNone(this.allButtons, "")),
      constant("IDS_OF_LAMPS", "text", this.allLamps),
      constant("IDS_OF_SERVOS", "text", orNone(this.allServos, "")),
      constant("IDS_OF_GATES", "text", orNone(this.allGates, "")),
      constant("START", "int", Math.max(0, modeIds.indexOf(program.start))),
      constant("MODES", "int", modeIds.length),
      constant("RESPONSES", "int", responses.length),
      constant("STEPS", "int", this.stepCount),
      constant("TARGETS", "int", program.targets.length),
      constant("FIRST_STEP", "int", starts),
      constant(
        "STEPS_OF",
        "int",
        this.sequences.map((steps) => steps.length),
      ),
      constant("SKIPPED", "bool", orNone(skipped, false)),
      constant("FIRST_RESPONSE", "int", [...firsts, responses.length]),
      constant(
        "BY_EVENTS",
        "bool",
        judged(({ judge }) => judge.byEvents === true),
      ),
      constant(
        "ON_EDGE",
        "bool",
        judged(({ judge }) => judge.onEdge),
      ),
      constant(
        "RENEWS",
        "bool",
        judged(({ judge }) => judge.renews === true),
      ),
      constant(
        "STAYS_DUE",
        "bool",
        judged(({ judge }) => judge.staysDue === true),
      ),
      constant(
        "ONCE",
        "bool",
        judged(({ response }) => response.fires === "once per visit"),
      ),
      constant(
        "LETS_FINISH",
        "bool",
        judged(({ response }) => response.busy === "let it finish"),
      ),
      constant(
        "REST_MS",
        "num",
        orNone(
          responses.map(({ response: { response } }) => response.restMs ?? 0),
          0,
        ),
      ),
      constant(
        "THEN",
        "int",
        orNone(
          responses.map(
            ({
              response: {
                response: { then },
              },
            }) => (then === undefined ? -1 : then === "finish" ? -2 : modeIds.indexOf(then)),
          ),
          -1,
        ),
      ),
      constant(
        "LASTS",
        "bool",
        orNone(
          this.besides.map(({ code, endless }) => endless || code.ended !== undefined),
          false,
        ),
      ),
      constant(
        "ENDLESS",
        "bool",
        orNone(
          this.besides.map(({ endless }) => endless),
          false,
        ),
      ),
      constant(
        "TUNE_HERTZ",
        "num",
        orNone(
          this.tones.map(({ hertz }) => hertz),
          0,
        ),
      ),
      constant(
        "TUNE_MS",
        "num",
        orNone(
          this.tones.map(({ ms }) => ms),
          0,
        ),
      ),
      constant(
        "IS_CAMERA",
        "bool",
        program.eyes.map(({ sensor }) => isCamera(sensor)),
      ),
      constant("WHEEL_MM", "num", program.wheelMm),
      constant("TOP_SPEED", "num", program.topSpeed),
      constant("GATES", "int", gates.length),
      constant("GATE_RESERVE", "num", GATE_RESERVE),
      constant(
        "GATE_CRATE",
        "int",
        ofGates((gate) => this.crates.indexOf(gate.crate)),
      ),
      constant(
        "GATE_AT",
        "num",
        ofGates((gate) => gate.atMm),
      ),
      constant(
        "GATE_REACH",
        "num",
        ofGates((gate) => gate.reachMm),
      ),
      constant(
        "GATE_TRAVEL_MS",
        "num",
        ofGates((gate) => gate.travelMs),
      ),
      constant(
        "LOOKS_AT",
        "num",
        program.eyes.map((_, i) => belt?.looksAt[i] ?? 0),
      ),
      constant(
        "SPOT_MM",
        "num",
        program.eyes.map(({ sensor }) => sensor.optics.spotMm),
      ),
      constant(
        "PERIOD_MS",
        "num",
        program.eyes.map(({ sensor }) => sensor.periodMs),
      ),
    ];
  }

  /** Which of a mode's responses answers a target that is replayed: the number of its steps, −1 for none. */
  private replays(): string {
    const modes = new Set(this.sequences.flat().flatMap((step) => (step.step === "replay" ? [step.mode] : [])));
    const lines = [...modes].flatMap((mode) => {
      const known = new Set<string>();
      const cases = this.responses.flatMap(({ mode: m, response: { response, judge } }, r) => {
        if ([...this.program.modes.keys()][m] !== mode || !judge.byEvents) return [];
        return answeredBy(response.when).flatMap(({ target }) => {
          if (known.has(target)) return [];
          known.add(target);
          return [`    if target == ${this.label(target)}`, `      return ${this.program.modes.size + r}`];
        });
      });
      return cases.length === 0 ? [] : [`  if in_mode == ${this.mode(mode)}`, ...cases];
    });
    return `fn answer_to(in_mode: int, target: int): int
  "The steps by which a mode answers that a target arrives; -1 where it does not."
${lines.join("\n")}
  return -1
`;
  }

  /** What the engine keeps. */
  private state(): Variable[] {
    const { program } = this;
    const events = Math.max(8, 2 * this.eyes.length + this.sights.length);
    const frames = this.needs().replays
      ? MOST_NESTED
      : Math.min(MOST_NESTED, 1 + this.project.behaviour.routines.length);
    // Each output has one owner; what steers has none before its first moment.
    const besides = 2 + this.allLamps.length + this.allServos.length + 8;
    const places = this.eyes.length + this.sights.length;
    const many = (
      own: string,
      type: "num" | "int" | "bool",
      count: number,
      value: number | boolean = type === "bool" ? false : 0,
    ) => lasting(own, type, new Array<number | boolean>(Math.max(1, count)).fill(value) as number[]);
    const one = (own: string, type: "num" | "int" | "bool", value: number | boolean) => lasting(own, type, value);
    return [
      { ...one("t_now", "num", 0), doc: "the time in ms" },
      one("asleep", "bool", false),
      one("started", "bool", false),
      { ...one("finished", "bool", false), doc: "whether the behaviour has ended" },
      { ...one("mode", "int", 0), doc: "the mode that it is in" },
      one("mode_since", "num", 0),
      { ...one("way_left", "num", 0), doc: "how far each wheel has gone, in mm" },
      one("way_right", "num", 0),
      one("brings", "bool", false),
      { ...many("label_of", "int", this.eyes.length), doc: "what the newest reading of each sensor is taken for" },
      many("has_read", "bool", this.eyes.length),
      many("known_at", "num", this.eyes.length, Number.NEGATIVE_INFINITY),
      many("departure_told", "int", places),
      constant("EVENTS", "int", events),
      one("arrivals", "int", 0),
      many("arrival_eye", "int", events),
      many("arrival_label", "int", events),
      one("departures", "int", 0),
      many("departure_eye", "int", events),
      many("departure_label", "int", events),
      many("departure_visit", "int", events),
      many("visit_before", "int", program.targets.length),
      many("frame_came", "bool", this.eyes.length),
      many("blobs", "num", places * BLOB_ORDER.length),
      many("pressed", "bool", this.allButtons.length),
      one("by_eye", "int", 0),
      one("by_label", "int", 0),
      many("arm_known", "bool", this.responses.length),
      many("arm_held", "bool", this.responses.length),
      many("arm_spent", "num", this.responses.length, Number.NaN),
      many("arm_ready", "num", this.responses.length, Number.NEGATIVE_INFINITY),
      {
        ...one("active", "bool", false),
        doc: "whether steps are in progress, and of which response; -1 for those of the mode",
      },
      one("response", "int", -1),
      one("begun", "bool", false),
      one("begun_t", "num", 0),
      one("begun_left", "num", 0),
      one("begun_right", "num", 0),
      one("begun_ms", "num", 0),
      one("since_t", "num", 0),
      one("since_left", "num", 0),
      one("since_right", "num", 0),
      one("since_ms", "num", 0),
      one("next_mode", "int", -1),
      constant("FRAMES", "int", frames),
      one("depth", "int", 0),
      ...["sequence", "index", "again", "target", "list", "mode", "next", "end", "eye"].map((part) =>
        many(`frame_${part}`, "int", frames),
      ),
      many("frame_way", "num", frames),
      many("frame_t", "num", frames),
      one("pushed", "int", 0),
      one("pushed_sequence", "int", 0),
      one("pushed_again", "int", 0),
      one("pushed_list", "int", 0),
      one("pushed_mode", "int", 0),
      one("pushed_end", "int", 0),
      constant("BESIDES", "int", besides),
      one("beside_count", "int", 0),
      one("actor", "int", -1),
      many("beside_step", "int", besides),
      many("beside_output", "int", besides),
      ...["t", "left", "right", "ms"].map((part) => many(`beside_${part}`, "num", besides)),
      { ...many("counters", "num", this.allCounters.length), doc: "the counters" },
      constant("MOST_JOTTED", "int", MOST_JOTTED),
      many("list_count", "int", this.allLists.length),
      many("lists", "int", this.allLists.length * MOST_JOTTED),
      one("wheels_told", "bool", false),
      one("wheels_left", "num", 0),
      one("wheels_right", "num", 0),
      constant("LAMPS", "int", this.allLamps.length),
      lasting(
        "servo_at",
        "num",
        orNone(
          this.allServos.map((id) => program.servos[id] ?? 0),
          0,
        ),
      ),
      one("turned_left", "num", 0),
      one("turned_right", "num", 0),
      one("turned_at", "num", Number.NEGATIVE_INFINITY),
      many("ways", "num", this.eyes.length * this.recent),
      many("visit_way", "num", this.eyes.length),
      many("last_way", "num", this.eyes.length),
      many("gate_open", "bool", this.allGates.length),
      constant("MOST_SENT", "int", MOST_SENT),
      one("sent_count", "int", 0),
      many("sent_gate", "int", MOST_SENT),
      many("sent_open_at", "num", MOST_SENT),
      many("sent_close_at", "num", MOST_SENT),
      many("sent_opened", "bool", MOST_SENT),
      many("sent_by", "int", MOST_SENT),
      many("sent_fired", "num", MOST_SENT),
    ];
  }

  /** How many labels steadying remembers. */
  private get recent(): number {
    return Math.max(...this.eyes.map(({ ruleSet: { steady } }) => Math.max(steady.of, steady.release)));
  }

  private press(): Fn {
    return readFns(`fn press(button: int, is_down: bool)
  "A button is held down, or let go: it counts from the next moment on."
  pressed[button] = is_down
`)[0];
  }

  /** `take_…`: a reading of a sensor, or a frame of a camera whose blobs are known. */
  private take(eye: CodeEye): Fn {
    const { sensor, own } = eye;
    const of = oneLine(sensor.name);
    if (isCamera(sensor))
      return readFns(`fn take_${own}()
  "Takes in a frame of ${quietly(of)}, whose largest blobs stand in blobs."
  if not asleep
    sights_taken(${eye.index}, ${this.sightsOf(eye.index)})
`)[0];
    const kind = REPORT_KINDS[sensor.reports];
    const takes = kind.channels.map((_, i) => WIRE[i]);
    const wanted = [...this.features].filter(([, { eye: of }]) => of === eye);
    const [fn] = readFns(`fn take_${own}(${takes.map((channel) => `${channel}: num`).join(", ")})
  "Takes in one raw reading of ${quietly(of)} in wire order."
  if asleep
    return
  label_taken(${this.eyeName(eye.index)}, classify_${own}(${takes.join(", ")}))
`);
    const features: Statement[] = wanted.map(([variable, { feature }]) => {
      const value = (kind.features.includes("val") && DERIVED[feature]) || name(feature);
      return { does: "set", place: name(variable), value };
    });
    const read: Statement[] = [
      {
        does: "set",
        place: { is: "at", array: "has_read", index: name(this.eyeName(eye.index)) },
        value: { is: "bool", value: true },
      },
    ];
    const [first, ...rest] = fn.body;
    return {
      ...fn,
      body: [
        first,
        ...(features.length > 0 ? withoutIdle([...inputs(sensor), ...features]) : []),
        ...(this.clarities.size > 0 ? read : []),
        ...rest,
      ],
    };
  }

  /** What a program may be asked from outside; `looks`: whether it finds a camera's blobs itself. */
  roots(looks: boolean): string[] {
    return [
      ...(looks
        ? this.eyes.flatMap(({ own, sensor }) => (isCamera(sensor) ? [`look_${own}`, "frame_bytes"] : []))
        : []),
      "start_moment",
      "end_moment",
      "press",
      "pressed",
      "seen",
      "label_of",
      "finished",
      "IDS_OF_EYES",
      "IDS_OF_BUTTONS",
      "IDS_OF_MODES",
      // The robot's side goes by these.
      ...(this.tones.length > 0 ? ["TUNE_HERTZ", "TUNE_MS"] : []),
      ...(this.hasCameras ? ["blobs", "BLOB_FIELDS", "NAMES"] : []),
      ...this.eyes.map(({ own }) => `take_${own}`),
    ];
  }
}

const PHASES: Readonly<Record<string, string>> = {
  during: "while it goes on",
  ended: "whether it has ended",
  end: "when it has ended",
};

/** An array has one place at least. */
const orNone = <T>(all: readonly T[], none: T): readonly T[] => (all.length === 0 ? [none] : all);

const fnText = (head: string, doc: string, code: string) =>
  `fn ${head}\n  ${JSON.stringify(quietly(doc))}\n${code
    .split("\n")
    .map((line) => `  ${line}`)
    .join("\n")}\n`;

/** What is called by a number, by halves: few comparisons lead to any of them. */
class Dispatches {
  private readonly all = new Map<string, [number: number, call: string][]>();

  add(phase: string, number: number, call: string): void {
    this.all.set(phase, [...(this.all.get(phase) ?? []), [number, call]]);
  }

  fns(more: string): Fn[] {
    const kinds = [
      ["when", "when(r: int): num", "Whether a response's trigger holds: the number of the occasion, or nan.", "nan"],
      ["only_if", "only_if(r: int): bool", "Whether a response may start.", "true"],
      ["begin", "begin_step(s: int)", "What a step does when it begins.", ""],
      ["during", "during_step(s: int)", "What it does while it goes on.", ""],
      ["ended", "step_ended(s: int): bool", "Whether it has ended.", "true"],
      ["end", "end_step(s: int)", "What it does when it has ended.", ""],
    ] as const;
    const source = kinds.map(([phase, head, doc, otherwise]) => {
      const cases = (this.all.get(phase) ?? []).sort(([a], [b]) => a - b);
      const lines = halves(cases, head.includes("(r:") ? "r" : "s", otherwise !== "");
      return fnText(
        head,
        doc,
        [...lines, ...(otherwise === "" ? (lines.length === 0 ? ["return"] : []) : [`return ${otherwise}`])].join("\n"),
      );
    });
    return readFns(`${source.join("\n")}\n${more}`);
  }
}

function halves(cases: readonly [number: number, call: string][], by: string, gives: boolean): string[] {
  const indented = (lines: readonly string[]) => lines.map((line) => `  ${line}`);
  if (cases.length <= 3)
    return cases.flatMap(([number, call], i) => [
      `${gives || i === 0 ? "if" : "elif"} ${by} == ${number}`,
      `  ${gives ? `return ${call}` : call}`,
    ]);
  const middle = cases.length >> 1;
  return [
    `if ${by} < ${cases[middle][0]}`,
    ...indented(halves(cases.slice(0, middle), by, gives)),
    "else",
    ...indented(halves(cases.slice(middle), by, gives)),
  ];
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
  return { parts: code.parts(), roots: code.roots(looks), eyes: code.eyes, sights: (eye) => code.sightsOf(eye) };
}
