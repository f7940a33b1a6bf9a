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
}

/** A part of a tape's readings, as `encodeReadings` writes them. */
export interface TapeChunkRow {
  project: string;
  tape: string;
  part: number;
  count: number;
  bytes: Buffer;
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
  },
});

export const TapeChunkEntity = new EntitySchema<TapeChunkRow>({
  name: "tape_chunk",
  columns: {
    project: { type: "text", primary: true },
    tape: { type: "text", primary: true },
    part: { type: "integer", primary: true },
    count: { type: "integer" },
    bytes: { type: "blob" },
  },
  foreignKeys: [
    {
      name: "FK_tape_chunk_project",
      target: "project",
      columnNames: ["project"],
      referencedColumnNames: ["id"],
      onDelete: "CASCADE",
    },
  ],
});
