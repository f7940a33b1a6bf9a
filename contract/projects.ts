import { MAX_DOCUMENT_BYTES, MAX_PROJECT_FILE_BYTES, MAX_READINGS_BYTES, TapeIdSchema } from "@perceptum/core/names";
import { Project, ProjectDocument } from "@perceptum/core/project";
import { FrameName } from "@perceptum/core/readings";
import { RUN_LIMIT_MS } from "@perceptum/core/world";
import * as z from "zod";
import { DONE, endpoint, json, raw } from "./endpoint";

/** The largest frame that is kept, in bytes of its PNG. */
export const MOST_FRAME_BYTES = 10 * 1024 * 1024;
/** A choice of a run has so many bytes at most. */
const MOST_CHOICE_BYTES = 100 * 1024;

/** A project, by the id that the server gave it. */
const id = z.string().min(1).max(100);
const revision = z.number().int().min(1);
const when = z.number().int().min(0).describe("a time, in ms since 1970");

export const ProjectSummary = z.strictObject({
  id,
  name: z.string(),
  revision,
  createdAt: when,
  updatedAt: when,
  openedAt: when.nullable(),
  paints: z
    .array(z.string())
    .describe("the paints of what is to be recognised; none of a document that takes long to read"),
});
export type ProjectSummary = z.infer<typeof ProjectSummary>;

/** A course to run on, from where, in which light; what is left out is the course's first. */
export const RunChoice = z.strictObject({
  course: z.string(),
  start: z.string().optional(),
  light: z.string().optional(),
  seed: z.number().int().min(0).max(2_147_483_647).optional(),
  limitMs: z.number().min(0).max(RUN_LIMIT_MS).optional(),
});

const ETAG = { ETag: 'the revision, as `"7"`' };

const projects = endpoint({
  method: "get",
  path: "projects",
  says: "Lists the projects, the one last changed first.",
  answers: { 200: { says: "The projects.", content: json(z.array(ProjectSummary)) } },
});

const addProject = endpoint({
  method: "post",
  path: "projects",
  says: "Adds a project with its readings and frames.",
  body: { ...json(Project), most: MAX_PROJECT_FILE_BYTES, read: "apart" },
  answers: {
    201: {
      says: "It is added.",
      content: json(z.strictObject({ id })),
      headers: { Location: "the address of the project" },
    },
  },
});

const project = endpoint({
  method: "get",
  path: "project",
  says: "Gives a project without its readings.",
  params: z.object({ id }),
  answers: { 200: { says: "The project.", content: json(ProjectDocument), headers: ETAG } },
});

const replaceProject = endpoint({
  method: "put",
  path: "project",
  says: "Replaces a project, if it still is at the revision that the change was made on. Its readings and frames are sent before.",
  params: z.object({ id }),
  headers: z.object({
    "if-match": z
      .string()
      .regex(/^"\d{1,15}"$/)
      .optional()
      .describe('the revision that the change was made on, as `"7"`; without it the answer is 428'),
    "idempotency-key": z
      .string()
      .regex(/^[\w-]{8,64}$/, "an Idempotency-Key has 8 to 64 letters, digits and hyphens")
      .optional()
      .describe("the id of this change: where it came in before, it is answered as then, and nothing is done"),
  }),
  body: { ...json(ProjectDocument), most: MAX_DOCUMENT_BYTES, read: "apart" },
  answers: { 200: { says: "It is replaced.", content: json(z.strictObject({ revision })), headers: ETAG } },
  problems: [409, 412, 428],
});

const markOpened = endpoint({
  method: "put",
  path: "opened",
  says: "Notes that a project was opened just now.",
  params: z.object({ id }),
  answers: { 204: DONE },
});

const deleteProject = endpoint({
  method: "delete",
  path: "project",
  says: "Deletes a project. What is deleted is cleared away after a day.",
  params: z.object({ id }),
  answers: { 204: DONE },
});

const projectFile = endpoint({
  method: "get",
  path: "file",
  says: "Gives a project as a file, with its readings and frames.",
  params: z.object({ id }),
  answers: {
    200: {
      says: "The file.",
      content: json(Project),
      headers: { "Content-Disposition": "the name of the file" },
    },
  },
});

const readings = endpoint({
  method: "get",
  path: "readings",
  says: "Gives the readings of a tape, as float64 chunks.",
  params: z.object({ id, tape: z.string() }),
  answers: { 200: { says: "The readings.", content: raw("application/octet-stream") } },
});

const readingsCsv = endpoint({
  method: "get",
  path: "readingsCsv",
  says: "Gives the readings of a tape as a table.",
  params: z.object({ id, tape: z.string() }),
  answers: { 200: { says: "The table.", content: raw("text/csv") } },
});

const keepReadings = endpoint({
  method: "put",
  path: "readings",
  says: "Keeps the readings of a tape, as float64 chunks. They are kept once and never replaced.",
  params: z.object({ id, tape: TapeIdSchema }),
  body: { ...raw("application/octet-stream"), most: MAX_READINGS_BYTES, read: "apart" },
  answers: { 204: DONE },
  problems: [409, 415],
});

const frame = endpoint({
  method: "get",
  path: "frame",
  says: "Gives a frame of a camera.",
  params: z.object({ id, name: z.string() }),
  answers: { 200: { says: "The frame. It never changes.", content: raw("image/png") } },
});

const keepFrame = endpoint({
  method: "put",
  path: "frame",
  says: "Keeps a frame of a camera, by the SHA-256 of its bytes.",
  params: z.object({ id, name: FrameName }),
  body: { ...raw("image/png"), most: MOST_FRAME_BYTES, read: "apart" },
  answers: { 204: DONE },
  problems: [415],
});

const run = endpoint({
  method: "post",
  path: "runs",
  says: "Runs a project on a course: the same trace, byte for byte, as in the page and at the command line.",
  params: z.object({ id }),
  body: { ...json(RunChoice), most: MOST_CHOICE_BYTES, read: "here" },
  answers: { 200: { says: "The trace, a JSON object a line.", content: raw("application/jsonl") } },
});

export const PROJECTS = {
  projects,
  addProject,
  project,
  replaceProject,
  markOpened,
  deleteProject,
  projectFile,
  readings,
  readingsCsv,
  keepReadings,
  frame,
  keepFrame,
  run,
};
