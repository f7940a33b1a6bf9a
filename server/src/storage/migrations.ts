import { createHash } from "node:crypto";
import { renew } from "@perceptum/core/project";
import { decodeReadings, encodeReadings, reportOfReadings, textBytesOfReadings } from "@perceptum/core/readings";
import type { MigrationInterface, QueryRunner } from "typeorm";

const NO_WAY_BACK =
  "a database is not taken back to an earlier version; “perceptum restore” lists the copy that was made before the update";

/** Projects, and the chunks of their tapes. */
class Begin1764000000000 implements MigrationInterface {
  name = "Begin1764000000000";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "project" ("id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "document" text NOT NULL, ` +
        `"revision" integer NOT NULL, "createdAt" integer NOT NULL, "updatedAt" integer NOT NULL, "openedAt" integer)`,
    );
    await runner.query(
      `CREATE TABLE "tape_chunk" ("project" text NOT NULL, "tape" text NOT NULL, "part" integer NOT NULL, ` +
        `"count" integer NOT NULL, "bytes" blob NOT NULL, ` +
        `CONSTRAINT "FK_tape_chunk_project" FOREIGN KEY ("project") REFERENCES "project" ("id") ON DELETE CASCADE ON UPDATE NO ACTION, ` +
        `PRIMARY KEY ("project", "tape", "part"))`,
    );
  }

  async down(): Promise<void> {
    throw new Error(NO_WAY_BACK);
  }
}

/** Readings by their content, changes by the id of their sender, and facts about the database. */
class ByContent1764200000000 implements MigrationInterface {
  name = "ByContent1764200000000";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "tape" ("project" text NOT NULL, "tape" text NOT NULL, "digest" text NOT NULL, "unnamedSince" integer, ` +
        `CONSTRAINT "FK_tape_project" FOREIGN KEY ("project") REFERENCES "project" ("id") ON DELETE CASCADE ON UPDATE NO ACTION, ` +
        `PRIMARY KEY ("project", "tape"))`,
    );
    await runner.query(`CREATE INDEX "IDX_tape_digest" ON "tape" ("digest") `);
    await runner.query(
      `CREATE TABLE "readings" ("digest" text PRIMARY KEY NOT NULL, "report" text NOT NULL, "count" integer NOT NULL, "textBytes" integer NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE "readings_part" ("digest" text NOT NULL, "part" integer NOT NULL, "bytes" blob NOT NULL, PRIMARY KEY ("digest", "part"))`,
    );
    await runner.query(
      `CREATE TABLE "send" ("id" text NOT NULL, "project" text NOT NULL, "revision" integer NOT NULL, "at" integer NOT NULL, ` +
        `CONSTRAINT "FK_send_project" FOREIGN KEY ("project") REFERENCES "project" ("id") ON DELETE CASCADE ON UPDATE NO ACTION, ` +
        `PRIMARY KEY ("id", "project"))`,
    );
    await runner.query(`CREATE TABLE "fact" ("name" text PRIMARY KEY NOT NULL, "value" text NOT NULL)`);
    const tapes: { project: string; tape: string }[] = await runner.query(
      `SELECT DISTINCT "project", "tape" FROM "tape_chunk"`,
    );
    for (const { project, tape } of tapes) await moveTape(runner, project, tape);
    await runner.query(`DROP TABLE "tape_chunk"`);
    const [{ count }] = await runner.query(`SELECT COUNT(*) AS "count" FROM "project"`);
    if (count > 0) await runner.query(`INSERT INTO "fact" VALUES ('demos', 'added')`);
  }

  async down(): Promise<void> {
    throw new Error(NO_WAY_BACK);
  }
}

/** Keeps what was kept by tape by its content; bytes and parts are as they were. */
async function moveTape(runner: QueryRunner, project: string, tape: string): Promise<void> {
  const chunks: { part: number; bytes: Buffer }[] = await runner.query(
    `SELECT "part", "bytes" FROM "tape_chunk" WHERE "project" = ? AND "tape" = ? ORDER BY "part"`,
    [project, tape],
  );
  const raw = decodeReadings(Buffer.concat(chunks.map((chunk) => chunk.bytes)));
  const digest = createHash("sha256").update(encodeReadings(raw)).digest("hex");
  const [known] = await runner.query(`SELECT 1 FROM "readings" WHERE "digest" = ?`, [digest]);
  if (known === undefined) {
    for (const { part, bytes } of chunks)
      await runner.query(`INSERT INTO "readings_part" VALUES (?, ?, ?)`, [digest, part, bytes]);
    await runner.query(`INSERT INTO "readings" VALUES (?, ?, ?, ?)`, [
      digest,
      reportOfReadings(raw),
      raw.t.length,
      textBytesOfReadings(raw),
    ]);
  }
  const [row] = await runner.query(`SELECT "document" FROM "project" WHERE "id" = ?`, [project]);
  const named = (JSON.parse(row.document) as { tapes: { id: string }[] }).tapes.some(({ id }) => id === tape);
  await runner.query(`INSERT INTO "tape" VALUES (?, ?, ?, ?)`, [project, tape, digest, named ? null : Date.now()]);
}

/** Writes projects as they are written now: those in whose text `like` is found, one after the other. */
async function renewAll(runner: QueryRunner, like: string): Promise<void> {
  const rows: { id: string }[] = await runner.query(`SELECT "id" FROM "project" WHERE "document" LIKE ?`, [like]);
  for (const { id } of rows) {
    const [{ document }] = await runner.query(`SELECT "document" FROM "project" WHERE "id" = ?`, [id]);
    const project = JSON.parse(document) as object;
    renew(project);
    await runner.query(`UPDATE "project" SET "document" = ? WHERE "id" = ?`, [JSON.stringify(project), id]);
  }
}

/** Steps that show icons show pictures. */
class Pictures1764260000000 implements MigrationInterface {
  name = "Pictures1764260000000";

  async up(runner: QueryRunner): Promise<void> {
    await renewAll(runner, '%"icon":%');
  }

  async down(): Promise<void> {
    throw new Error(NO_WAY_BACK);
  }
}

/** Frames of cameras by their content, and which project holds them. */
class Frames1764900000000 implements MigrationInterface {
  name = "Frames1764900000000";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "frame" ("name" text PRIMARY KEY NOT NULL, "width" integer NOT NULL, "height" integer NOT NULL, ` +
        `"size" integer NOT NULL, "bytes" blob NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE "project_frame" ("project" text NOT NULL, "name" text NOT NULL, "unnamedSince" integer, ` +
        `CONSTRAINT "FK_project_frame_project" FOREIGN KEY ("project") REFERENCES "project" ("id") ON DELETE CASCADE ON UPDATE NO ACTION, ` +
        `PRIMARY KEY ("project", "name"))`,
    );
    await runner.query(`CREATE INDEX "IDX_project_frame_name" ON "project_frame" ("name") `);
  }

  async down(): Promise<void> {
    throw new Error(NO_WAY_BACK);
  }
}

/** Projects that were deleted less than a day ago. */
class Deleted1766000000000 implements MigrationInterface {
  name = "Deleted1766000000000";

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "project" ADD COLUMN "deletedAt" integer`);
  }

  async down(): Promise<void> {
    throw new Error(NO_WAY_BACK);
  }
}

/** The things in a project's lists get ids. */
class ListIds1767200000000 implements MigrationInterface {
  name = "ListIds1767200000000";

  async up(runner: QueryRunner): Promise<void> {
    await renewAll(runner, "%");
  }

  async down(): Promise<void> {
    throw new Error(NO_WAY_BACK);
  }
}

/** A carrier on a rail was a shuttle in files. */
class Carriers1767800000000 implements MigrationInterface {
  name = "Carriers1767800000000";

  async up(runner: QueryRunner): Promise<void> {
    await renewAll(runner, '%"shuttle"%');
  }

  async down(): Promise<void> {
    throw new Error(NO_WAY_BACK);
  }
}

/** All steps from an empty file to the present tables, oldest first. */
export const MIGRATIONS = [
  Begin1764000000000,
  ByContent1764200000000,
  Pictures1764260000000,
  Frames1764900000000,
  Deleted1766000000000,
  ListIds1767200000000,
  Carriers1767800000000,
];
