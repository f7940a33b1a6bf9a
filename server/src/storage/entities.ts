import { EntitySchema } from "typeorm";

/** A project without its readings. `document` is JSON; `revision` counts its changes. */
export interface ProjectRow {
  id: string;
  name: string;
  document: string;
  revision: number;
  createdAt: number;
  updatedAt: number;
  /** When it was first opened on screen, or null. */
  openedAt: number | null;
  /** When it was deleted, or null. For a day a window that has it open can still fetch what belongs to it. */
  deletedAt: number | null;
}

/** Which readings a tape of a project has. They never change. */
export interface TapeRow {
  project: string;
  tape: string;
  digest: string;
  /** Since when the project's document does not name it, in ms; null while it does. */
  unnamedSince: number | null;
}

/** Readings by their content; `textBytes` is how long they are in a project file. */
export interface ReadingsRow {
  digest: string;
  report: string;
  count: number;
  textBytes: number;
}

/** A part of readings, as `encodeReadings` writes it. */
export interface ReadingsPartRow {
  digest: string;
  part: number;
  bytes: Buffer;
}

/** A frame of a camera by its content: the SHA-256 of its PNG, of so many bytes. */
export interface FrameRow {
  name: string;
  width: number;
  height: number;
  size: number;
  bytes: Buffer;
}

/** Which frames a project holds. */
export interface ProjectFrameRow {
  project: string;
  name: string;
  /** Since when the project's document does not name it, in ms; null while it does. */
  unnamedSince: number | null;
}

/** A change that was answered, by the id that its sender gave it: a repeated request is answered alike. */
export interface SendRow {
  id: string;
  project: string;
  revision: number;
  at: number;
}

/** A fact about the database itself. */
export interface FactRow {
  name: string;
  value: string;
}

export const ProjectEntity = new EntitySchema<ProjectRow>({
  name: "project",
  columns: {
    id: { type: "text", primary: true },
    name: { type: "text" },
    document: { type: "text" },
    revision: { type: "integer" },
    createdAt: { type: "integer" },
    updatedAt: { type: "integer" },
    openedAt: { type: "integer", nullable: true },
    deletedAt: { type: "integer", nullable: true },
  },
});

const ofProject = (name: string) => ({
  name,
  target: "project",
  columnNames: ["project"],
  referencedColumnNames: ["id"],
  onDelete: "CASCADE" as const,
});

export const TapeEntity = new EntitySchema<TapeRow>({
  name: "tape",
  columns: {
    project: { type: "text", primary: true },
    tape: { type: "text", primary: true },
    digest: { type: "text" },
    unnamedSince: { type: "integer", nullable: true },
  },
  indices: [{ name: "IDX_tape_digest", columns: ["digest"] }],
  foreignKeys: [ofProject("FK_tape_project")],
});

export const ReadingsEntity = new EntitySchema<ReadingsRow>({
  name: "readings",
  columns: {
    digest: { type: "text", primary: true },
    report: { type: "text" },
    count: { type: "integer" },
    textBytes: { type: "integer" },
  },
});

export const ReadingsPartEntity = new EntitySchema<ReadingsPartRow>({
  name: "readings_part",
  columns: {
    digest: { type: "text", primary: true },
    part: { type: "integer", primary: true },
    bytes: { type: "blob" },
  },
});

export const FrameEntity = new EntitySchema<FrameRow>({
  name: "frame",
  columns: {
    name: { type: "text", primary: true },
    width: { type: "integer" },
    height: { type: "integer" },
    size: { type: "integer" },
    bytes: { type: "blob" },
  },
});

export const ProjectFrameEntity = new EntitySchema<ProjectFrameRow>({
  name: "project_frame",
  columns: {
    project: { type: "text", primary: true },
    name: { type: "text", primary: true },
    unnamedSince: { type: "integer", nullable: true },
  },
  indices: [{ name: "IDX_project_frame_name", columns: ["name"] }],
  foreignKeys: [ofProject("FK_project_frame_project")],
});

export const SendEntity = new EntitySchema<SendRow>({
  name: "send",
  columns: {
    id: { type: "text", primary: true },
    project: { type: "text", primary: true },
    revision: { type: "integer" },
    at: { type: "integer" },
  },
  foreignKeys: [ofProject("FK_send_project")],
});

export const FactEntity = new EntitySchema<FactRow>({
  name: "fact",
  columns: { name: { type: "text", primary: true }, value: { type: "text" } },
});

export const ENTITIES = [
  ProjectEntity,
  TapeEntity,
  ReadingsEntity,
  ReadingsPartEntity,
  FrameEntity,
  ProjectFrameEntity,
  SendEntity,
  FactEntity,
];
