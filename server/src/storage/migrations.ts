import type { MigrationInterface, QueryRunner } from "typeorm";

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

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "tape_chunk"`);
    await runner.query(`DROP TABLE "project"`);
  }
}

/** All steps from an empty file to the present tables, oldest first. */
export const MIGRATIONS = [Begin1764000000000];
