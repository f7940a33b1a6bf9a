import { oneLine } from "../names";
import type { ProjectDocument } from "../project";
import { isCamera, REPORT_KINDS, type Sensor } from "../readings";
import { type Part, quietly, reached } from "../tree";
import { BLOB_ORDER, setPointOf } from "../vision";
import { behaviourParts } from "./behaviourTree";
import { codeEyes, lasting, ReferenceRows, rulesParts, steadyingPart, word } from "./rulesTree";
import { cMain, cSide } from "./sides/c";
import type { SideFacts } from "./sides/facts";
import { javascriptSide } from "./sides/javascript";
import { pythonSide } from "./sides/python";
import { visionPart } from "./visionTree";
import { C_HELP, C_ROWS, CPrinter } from "./writers/c";
import { camelName, JavaScriptPrinter } from "./writers/javascript";
import { PythonPrinter } from "./writers/python";

/** The name in JavaScript of the function that labels a sensor's readings. */
export const classifyName = ({ id }: { id: string }): string => camelName(`classify_${word(id)}`);

/** The name in JavaScript of the function that takes in a sensor's reading. */
export const takeName = ({ id }: { id: string }): string => camelName(`take_${word(id)}`);

/** A language that code for a robot is written in. */
export interface Language {
  key: string;
  name: string;
  /** The ending of its files, and their media type. */
  ending: string;
  mime: string;
  /** Whether it finds a camera's blobs itself: what frames need is too much for a microcontroller. */
  looks: boolean;
  /** What its robot's side, or who runs the file, asks for besides. */
  asks?: readonly string[];
  /** A whole file: what it is, the parts of the program, and the robot's side where there is one. */
  file(title: readonly string[], parts: readonly Part[], side?: SideFacts): string[];
}

function asPython(title: readonly string[], parts: readonly Part[], side?: SideFacts): string[] {
  const printer = new PythonPrinter(parts);
  const lines = [...printer.print(), ...printer.lasts()];
  const needsMath = lines.some((line) => line.includes("math."));
  const numbers = [
    ["NAN", "nan"],
    ["INFINITY", "inf"],
  ].flatMap(([name, text]) => (lines.some((line) => line.includes(name)) ? [`${name} = float("${text}")`] : []));
  return [
    '"""',
    ...title,
    '"""',
    "",
    ...(needsMath ? ["import math", ""] : []),
    ...(numbers.length > 0 ? [...numbers, ""] : []),
    ...lines,
    ...parts.flatMap(({ quicker, fns }) =>
      quicker?.python === undefined || fns.length === 0 ? [] : quicker.python.trimEnd().split("\n"),
    ),
    ...(side === undefined ? [] : pythonSide(side)),
  ];
}

/** Functions by which lines become moments, and what each sensor's newest reading was taken for. */
const OF_LINES = ["time_of_line", "open_moment", "open_ms", "idle_before", "lived", "label_of"];

const PYTHON = { ending: "py", mime: "text/x-python", asks: OF_LINES, file: asPython };

/** Every language there is. A new one is one more entry. */
export const LANGUAGES: readonly Language[] = [
  { ...PYTHON, key: "python", looks: true, name: "Python" },
  { ...PYTHON, key: "micropython", looks: false, name: "MicroPython" },
  {
    key: "c",
    looks: true,
    name: "C",
    ending: "h",
    mime: "text/x-c",
    file(title, parts, side) {
      const printer = new CPrinter(parts);
      return [
        "/*",
        ...title.map((line) => ` * ${line}`.trimEnd()),
        " *",
        " * Numbers are doubles. Where a double has 32 bits, as on some microcontrollers, or with PERCEPTUM_FLOAT defined, a",
        " * reading within a hair of a bound may be taken otherwise; all else is the same.",
        " */",
        "#ifndef PERCEPTUM_RULES_H",
        "#define PERCEPTUM_RULES_H",
        "",
        "#include <math.h>",
        "#include <stdbool.h>",
        "#include <stdlib.h>",
        ...(side === undefined ? [] : ["#ifndef PERCEPTUM_OWN_ROBOT", "#include <stdio.h>", "#endif"]),
        "",
        "#ifdef PERCEPTUM_FLOAT",
        "#define double float",
        "#endif",
        "",
        ...C_HELP,
        ...(parts.some(({ variables }) => variables.some(({ list }) => list !== undefined)) ? C_ROWS : []),
        ...printer.prototypes(),
        ...printer.ahead(),
        "",
        ...printer.print(),
        ...(side === undefined ? [] : [...cSide(side), ""]),
        "#ifdef PERCEPTUM_FLOAT",
        "#undef double",
        "#endif",
        ...(side === undefined ? [] : [...cMain(side), ""]),
        "#endif",
      ];
    },
  },
  {
    key: "javascript",
    looks: true,
    name: "JavaScript",
    ending: "mjs",
    mime: "text/javascript",
    asks: OF_LINES,
    file(title, parts, side) {
      const printer = new JavaScriptPrinter(parts);
      return [
        "/*",
        ...title.map((line) => ` * ${line}`.trimEnd()),
        " */",
        "",
        ...printer.print(),
        ...printer.lasts(),
        ...(side === undefined ? [] : javascriptSide(side, camelName)),
      ];
    },
  },
];

/**
 * The rules and the steadying of sensors in a language: `classify_…` takes the raw values of one reading in wire order
 * and gives the label that the core gives, at the bounds too; `steady` takes that and says what is seen.
 *
 * @throws Error where no sensor is given
 */
export function writeRules(language: Language, project: ProjectDocument, sensors: readonly Sensor[]): string {
  const eyes = codeEyes(project, sensors);
  const cameras = eyes.filter(({ sensor }) => isCamera(sensor));
  const first = (eye: number) => cameras.findIndex(({ index }) => index === eye) * project.targets.length;
  const places = cameras.length * project.targets.length * BLOB_ORDER.length;
  const vision = language.looks ? visionPart(project, eyes, first) : [];
  const parts = [
    ...rulesParts(project, eyes, new ReferenceRows(project, eyes)),
    steadyingPart(eyes),
    ...vision.map((part) => ({
      ...part,
      variables: [
        ...part.variables,
        {
          ...lasting("blobs", "num", new Array<number>(places).fill(0)),
          doc: "of each target: area, width, height, x, y, error, half the frame's width",
        },
      ],
    })),
  ];
  const roots = [
    ...(vision.length > 0 ? ["frame_bytes", ...cameras.map(({ own }) => `look_${own}`)] : []),
    ...parts[0].variables.map(({ name }) => name),
    ...eyes.map(({ own }) => `classify_${own}`),
    "steady",
    "forget",
  ];
  const title = [
    `Colour rules of ${quietly(project.name)}.`,
    "",
    "A classify function takes one raw reading in wire order and gives its label, a number; NAMES has its name.",
    "Give that to steady with the sensor and the time in ms: seen has what the sensor sees then.",
  ];
  return asText(language.file(title, reached(parts, roots)));
}

/**
 * The whole behaviour of a project's robot in a language, without the robot's side: `start_moment`, a `take_…` for each
 * reading and `end_moment` give the commands and notes that the core gives for the same readings and times.
 */
export function writeEngine(language: Language, project: ProjectDocument): string {
  const { parts, roots } = behaviourParts(project, language.looks);
  const title = [`Colour rules and behaviour of ${quietly(project.name)}.`];
  return asText(language.file(title, reached(parts, [...roots, "label_of"])));
}

/** The same with the robot's side, which speaks the protocol, or in C prints: a file that runs at once. */
export function writeBehaviour(language: Language, project: ProjectDocument): string {
  const { parts, roots, eyes, sights } = behaviourParts(project, language.looks);
  const wanted = reached(parts, [...roots, ...(language.asks ?? [])]);
  const sensors = eyes.map(({ sensor, own, index }) => ({
    own,
    id: sensor.id,
    name: oneLine(sensor.name),
    ...(isCamera(sensor)
      ? {
          channels: 0,
          camera: { first: sights(index), setPoint: setPointOf(sensor), halfFrame: sensor.frame.width / 2 },
        }
      : { channels: REPORT_KINDS.get(sensor.reports).channels.length }),
  }));
  const fns = new Set(wanted.flatMap(({ given = [] }) => given.map((fn) => fn.name)));
  const title = [
    `Colour rules and behaviour of ${quietly(project.name)}.`,
    "",
    "First the project: rules, then what the robot does, each step with its phrase.",
    "Then the engine, and last the robot's side: the part to change for your own.",
  ];
  return asText(language.file(title, wanted, { sensors, looks: language.looks, fns }));
}

const asText = (lines: readonly string[]) => `${lines.join("\n").trimEnd()}\n`;
