import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { bedWatch, pipeRailCarrier } from "@perceptum/core/demo";
import type { TapeId } from "@perceptum/core/names";
import { emptyProject, joinReadings, type ProjectDocument, splitProject } from "@perceptum/core/project";
import { encodeReadings, type RawReadings } from "@perceptum/core/readings";
import Sqlite from "better-sqlite3";
import { DataSource } from "typeorm";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { packFrame } from "../../demo/packFrame";
import { endBy, limitFiles, NO_ROOM, tryFaults, Witness } from "../../e2e/faults";
import { freshFolder, startServer } from "../../e2e/server";
import { backupNames } from "./storage/backupFiles";
import { backUp, restore } from "./storage/backups";
import type { Database } from "./storage/Database";
import { ENTITIES } from "./storage/entities";
import { FrameStore } from "./storage/FrameStore";
import { MIGRATIONS } from "./storage/migrations";
import { openDatabase } from "./storage/openDatabase";
import { ProjectStore } from "./storage/ProjectStore";
import { GRACE_MS, ReadingsStore } from "./storage/ReadingsStore";
import { JOBS } from "./work/jobs";

let data: string;
beforeEach(() => {
  data = freshFolder();
});
afterEach(() => rmSync(data, { recursive: true, force: true }));

const file = () => join(data, "perceptum.sqlite");
const stores = (database: Database) => {
  const readings = new ReadingsStore(database);
  const frames = new FrameStore(database);
  return { readings, frames, projects: new ProjectStore(database, readings, frames) };
};
const kept = (document: ProjectDocument, readings = new Map<TapeId, RawReadings>()) => {
  const taken = JOBS.take(joinReadings(document, readings));
  if ("fault" in taken) throw new Error(taken.fault.message);
  return taken;
};

/** Some readings; other ones for another seed. */
function readingsOf(seed: number, count: number): RawReadings {
  const column = (k: number) => Float64Array.from({ length: count }, (_, i) => (i * 37 + seed * 101 + k) % 1024);
  return {
    t: Float64Array.from({ length: count }, (_, i) => i * 20),
    channels: { r: column(1), g: column(2), b: column(3) },
  };
}
const readingsBody = (seed: number, count: number) => {
  const read = JOBS.readReadings({ bytes: encodeReadings(readingsOf(seed, count)) });
  if ("fault" in read) throw new Error(read.fault.message);
  return read.readings;
};
const withTape = (document: ProjectDocument, ...ids: string[]): ProjectDocument => ({
  ...document,
  tapes: ids.map((id) => ({
    id: id as TapeId,
    name: id,
    sensor: document.sensors[0].id,
    origin: "bench" as const,
    marks: [],
  })),
});
const documentOf = (document: ProjectDocument) => {
  const read = JOBS.readDocument({ bytes: Buffer.from(JSON.stringify(document)) });
  if ("fault" in read) throw new Error(read.fault.message);
  return read.document;
};

describe("the list of projects", () => {
  afterEach(() => vi.useRealTimers());

  it("has the one that was added last first, though all came within the same millisecond", async () => {
    const database = await openDatabase(data);
    const { projects } = stores(database);
    vi.useFakeTimers({ toFake: ["Date"] });
    const names = Array.from({ length: 12 }, (_, i) => `Bed ${i}`);
    await projects.addOnce(() => names.map((name) => kept(emptyProject(name))));
    expect((await projects.list()).map(({ name }) => name)).toEqual(names.toReversed());
    await database.close();
  });
});

describe("a commit that fails", () => {
  it("takes nothing later with it: all that is answered after it is there after a stop", async () => {
    let server = await startServer({ data });
    const witness = await Witness.begin(server);
    await witness.change(server, "Before");
    limitFiles(server, NO_ROOM);
    expect(await witness.change(server, "No room")).toBe(507);
    expect(await witness.change(server, "No room either")).toBe(507);
    limitFiles(server, "unlimited");
    for (let i = 0; i < 5; i++) expect(await witness.change(server, `After ${i}`)).toBe(200);
    await endBy(server, "SIGTERM");
    server = await startServer({ data });
    await witness.look(server);
    await server.stop();
    expect(witness.count).toEqual({ answered: 6, refused: 2, lost: 0 });
  });

  it("leaves no transaction open, and nothing is written as long as one is", async () => {
    const database = await openDatabase(data);
    const { projects } = stores(database);
    const made = kept(emptyProject("One"));
    await expect(
      database.write(async (manager) => {
        await manager.query(`INSERT INTO "fact" VALUES ('a', 'b')`);
        throw new Error("broken off");
      }),
    ).rejects.toThrow("broken off");
    expect(await database.read((m) => m.query(`SELECT * FROM "fact"`))).toEqual([]);
    await expect(database.write((m) => m.query("THIS IS NO SQL"))).rejects.toThrow();
    const id = await projects.add(made);
    await database.close();
    const again = await openDatabase(data);
    expect(await stores(again).projects.has(id)).toBe(true);
    await again.close();
  });

  it("for want of room with its transaction still open is taken back before anything else is written", async () => {
    const database = await openDatabase(data, (connection) => ({
      // SQLite leaves the transaction open where COMMIT finds no room.
      exec: (sql) => {
        if (sql === "COMMIT" && full)
          throw Object.assign(new Error("database or disk is full"), { code: "SQLITE_FULL" });
        return connection.exec(sql);
      },
      get inTransaction() {
        return connection.inTransaction;
      },
      pragma: (source, options) => connection.pragma(source, options),
      backup: (to) => connection.backup(to),
    }));
    let full = true;
    const { projects } = stores(database);
    const named = (name: string) => kept(emptyProject(name));
    await expect(projects.add(named("Lost"))).rejects.toMatchObject({ status: 507 });
    full = false;
    const id = await projects.add(named("Kept"));
    expect(await projects.replace(id, 1, named("Changed").document, undefined)).toBe(2);
    await database.close();
    const again = await openDatabase(data);
    expect((await stores(again).projects.list()).map((p) => p.name)).toEqual(["Changed"]);
    await again.close();
  });

  it("that come with others at once do not join them", async () => {
    const database = await openDatabase(data);
    const insert = (name: string, fails: boolean) =>
      database.write(async (manager) => {
        await manager.query(`INSERT INTO "fact" VALUES (?, '')`, [name]);
        await new Promise(setImmediate);
        if (fails) throw new Error(name);
      });
    const ends = await Promise.allSettled(["a", "b", "c", "d"].map((name, i) => insert(name, i % 2 === 1)));
    expect(ends.map((end) => end.status)).toEqual(["fulfilled", "rejected", "fulfilled", "rejected"]);
    expect(await database.read((m) => m.query(`SELECT "name" FROM "fact"`))).toEqual([{ name: "a" }, { name: "c" }]);
    await database.close();
  });
});

it("kills, failed commits and stops lose nothing that was answered", async () => {
  const count = await tryFaults(data, { kills: 6, failedCommits: 2 });
  expect(count).toMatchObject({ refused: 2, lost: 0 });
  expect(count.answered).toBeGreaterThanOrEqual(8);
});

describe("the database", () => {
  it("is safe against a lost supply, keeps its references and can give room back", async () => {
    const database = await openDatabase(data);
    const pragmas = (["journal_mode", "synchronous", "foreign_keys", "auto_vacuum"] as const).map((name) =>
      database.pragma(name),
    );
    // FULL is 2, INCREMENTAL is 2.
    expect(pragmas).toEqual(["wal", 2, 1, 2]);
    await database.close();
  });

  it("has the tables of its entities", async () => {
    await (await openDatabase(data)).close();
    const source = new DataSource({ type: "better-sqlite3", database: file(), entities: ENTITIES });
    await source.initialize();
    const { upQueries } = await source.driver.createSchemaBuilder().log();
    await source.destroy();
    expect(upQueries.map((q) => q.query)).toEqual([]);
  });

  it("of the first version is brought to the present tables with all its readings", async () => {
    const document = withTape(emptyProject("Old"), "tape-a", "tape-b");
    const old = new DataSource({
      type: "better-sqlite3",
      database: file(),
      migrations: MIGRATIONS.slice(0, 1),
      migrationsRun: true,
    });
    await old.initialize();
    await old.query(`INSERT INTO "project" VALUES ('old', 'Old', ?, 7, 1, 2, NULL)`, [JSON.stringify(document)]);
    const both = { a: readingsOf(1, 300), gone: readingsOf(2, 10) };
    for (const [tape, raw] of [
      ["tape-a", both.a],
      ["tape-b", both.a],
      ["gone", both.gone],
    ] as const) {
      const half = raw.t.length / 2;
      for (const [part, [from, to]] of [
        [0, half],
        [half, raw.t.length],
      ].entries()) {
        const cut = {
          t: raw.t.slice(from, to),
          channels: Object.fromEntries(Object.entries(raw.channels).map(([k, v]) => [k, v.slice(from, to)])),
        };
        await old.query(`INSERT INTO "tape_chunk" VALUES ('old', ?, ?, ?, ?)`, [
          tape,
          part,
          half,
          Buffer.from(encodeReadings(cut)),
        ]);
      }
    }
    await old.destroy();
    const database = await openDatabase(data);
    const { projects, readings } = stores(database);
    expect(await projects.get("old")).toEqual({ document: JSON.stringify(document), revision: 7 });
    const held = await readings.bytesOf("old", "tape-b");
    expect(JOBS.readReadings({ bytes: held ?? Buffer.alloc(0) })).toMatchObject({
      readings: { digest: readingsBody(1, 300).digest, count: 300 },
    });
    // Two tapes of one content are kept once; what no document names may go after a day.
    expect(await database.read((m) => m.query(`SELECT COUNT(*) AS n FROM "readings"`))).toEqual([{ n: 2 }]);
    await readings.clear(Date.now() + 2 * GRACE_MS);
    expect(await database.read((m) => m.query(`SELECT COUNT(*) AS n FROM "readings"`))).toEqual([{ n: 1 }]);
    expect(await readings.bytesOf("old", "tape-a")).toEqual(held);
    expect(database.pragma("auto_vacuum")).toBe(2);
    expect(
      await projects.addOnce(() => {
        throw new Error("the demos are not read again");
      }),
    ).toBe(false);
    await database.close();
  });

  it("that gives no pages back is not asked for them for ever", async () => {
    const database = await openDatabase(data, (connection) => ({
      get inTransaction() {
        return connection.inTransaction;
      },
      exec: (sql) => connection.exec(sql),
      backup: (file) => connection.backup(file),
      pragma: (source, options) => (source === "freelist_count" ? 7 : connection.pragma(source, options)),
    }));
    await database.shrink();
    await database.close();
  });

  it("of an earlier version shows pictures where it showed icons", async () => {
    const database = await openDatabase(data);
    const made = kept(emptyProject("Icons"), new Map());
    const id = await stores(database).projects.add(made);
    await database.close();
    const earlier = new Sqlite(file());
    earlier.exec(`DELETE FROM "migrations" WHERE "name" LIKE 'Pictures%'`);
    const icon = (name: string) => ({ step: "show", what: { icon: name } });
    const project = JSON.parse(JSON.stringify(emptyProject("Icons")));
    project.behaviour.modes[0].entering = [icon("drop"), { step: "meanwhile", does: icon("banana") }];
    earlier.prepare(`UPDATE "project" SET "document" = ?`).run(JSON.stringify(project));
    earlier.close();
    expect(backupNames(data)).toEqual([]);
    const renewed = await openDatabase(data);
    // A copy of what was there before the update is kept, and can be brought back.
    const [copy] = backupNames(data);
    expect(copy).toMatch(/^\d{4}-\d\d-\d\d-before-update$/);
    const before = new Sqlite(join(data, `backups/perceptum-${copy}.sqlite`), { readonly: true });
    expect(before.prepare(`SELECT "document" FROM "project"`).pluck().get()).toContain('"icon":"drop"');
    before.close();
    const { document: now } = (await stores(renewed).projects.get(id)) as { document: string };
    expect(JSON.parse(now).behaviour.modes[0].entering).toEqual([
      { id: "step-1", step: "show", what: { picture: "drop" } },
      { id: "step-2", step: "meanwhile", does: { step: "show", what: { text: "banana" } } },
    ]);
    await renewed.close();
    restore(data, copy, new Date());
    expect(readdirSync(data).filter((name) => name.startsWith("perceptum-restoring"))).toEqual([]);
    await (await openDatabase(data)).close();
  });

  const idless = (project: object) => {
    const bare = structuredClone(project) as { courses: { starts: { id?: string }[] }[] };
    delete bare.courses[0].starts[0].id;
    return bare;
  };
  const carrier = splitProject(pipeRailCarrier()).document;
  it.each([
    ["gives ids to what its lists hold", "ListIds", emptyProject("Ids"), idless(emptyProject("Ids"))],
    [
      "calls a carrier what it is called",
      "Carriers",
      carrier,
      { ...carrier, robot: { ...carrier.robot, kind: "shuttle" } },
    ],
  ])("of an earlier version %s", async (_, migration, project, bare) => {
    const database = await openDatabase(data);
    const id = await stores(database).projects.add(kept(project, new Map()));
    await database.close();
    const earlier = new Sqlite(file());
    earlier.exec(`DELETE FROM "migrations" WHERE "name" LIKE '${migration}%'`);
    earlier.prepare(`UPDATE "project" SET "document" = ?`).run(JSON.stringify(bare));
    earlier.close();
    const renewed = await openDatabase(data);
    const found = (await stores(renewed).projects.get(id)) as { document: string };
    expect(JSON.parse(found.document)).toEqual(project);
    await renewed.close();
  });

  it("of an earlier version that cannot be copied before the update is left as it is", async () => {
    await (await openDatabase(data)).close();
    const earlier = new Sqlite(file());
    earlier.exec(`DELETE FROM "migrations" WHERE "name" LIKE 'Pictures%'`);
    earlier.close();
    writeFileSync(join(data, "backups"), "a file where the folder should be");
    await expect(openDatabase(data)).rejects.toThrow(/no copy of it could be made/);
    const still = new Sqlite(file());
    expect(still.prepare(`SELECT COUNT(*) FROM "migrations"`).pluck().get()).toBe(MIGRATIONS.length - 1);
    still.close();
  });

  it("of a later version is not touched", async () => {
    await (await openDatabase(data)).close();
    const later = new Sqlite(file());
    later.exec(`INSERT INTO "migrations" ("timestamp", "name") VALUES (9999999999999, 'Later9999999999999')`);
    later.close();
    await expect(openDatabase(data)).rejects.toThrow("made by a later version");
  });

  it("that is damaged inside is refused at the start, with the way to a backup", async () => {
    const database = await openDatabase(data);
    const made = kept(withTape(emptyProject("Long"), "long"), new Map([["long" as TapeId, readingsOf(1, 20_000)]]));
    await stores(database).projects.add(made);
    await database.close();
    const size = statSync(file()).size;
    const { open } = await import("node:fs/promises");
    const handle = await open(file(), "r+");
    await handle.write(Buffer.alloc(8192, 0x5a), 0, 8192, Math.floor(size / 8192 / 2) * 4096);
    await handle.close();
    await expect(openDatabase(data)).rejects.toThrow(/damaged.*perceptum restore/);
  });

  it("whose file was moved or replaced while it is open takes no more writes", async () => {
    const database = await openDatabase(data);
    const { projects } = stores(database);
    const made = kept(emptyProject("One"));
    renameSync(file(), join(data, "elsewhere.sqlite"));
    await expect(projects.add(made)).rejects.toThrow("moved, deleted or replaced");
    writeFileSync(file(), "");
    await expect(projects.add(made)).rejects.toThrow("moved, deleted or replaced");
    await database.close();
  });
});

describe("readings", () => {
  it("are kept once by their content and never overwritten", async () => {
    const database = await openDatabase(data);
    const { projects, readings } = stores(database);
    const id = await projects.add(kept(emptyProject("One")));
    const tape = "a" as TapeId;
    expect(await readings.putTape(id, tape, readingsBody(1, 100), 0)).toBe("kept");
    expect(await readings.putTape(id, tape, readingsBody(1, 100), 0)).toBe("kept");
    expect(await readings.putTape(id, tape, readingsBody(2, 100), 0)).toBe("others");
    expect(await readings.putTape(id, "b" as TapeId, readingsBody(1, 100), 0)).toBe("kept");
    expect(await database.read((m) => m.query(`SELECT COUNT(*) AS n FROM "readings_part"`))).toEqual([{ n: 1 }]);
    await database.close();
  });

  it("that nothing names stay for a day, then go and give their room back", async () => {
    const database = await openDatabase(data);
    const { projects, readings } = stores(database);
    const base = emptyProject("One");
    const id = await projects.add(kept(base));
    const stay = "stays" as TapeId;
    await readings.putTape(id, stay, readingsBody(0, 2000), Date.now());
    let revision = 1;
    for (let i = 1; i <= 100; i++) {
      const [long, trimmed] = [`tape-${i}`, `tape-${i}-trimmed`];
      await readings.putTape(id, long as TapeId, readingsBody(i, 5000), Date.now());
      revision = await projects.replace(id, revision, documentOf(withTape(base, stay, long)), undefined);
      await readings.putTape(id, trimmed as TapeId, readingsBody(i, 3000), Date.now());
      revision = await projects.replace(id, revision, documentOf(withTape(base, stay, trimmed)), undefined);
      revision = await projects.replace(id, revision, documentOf(withTape(base, stay)), undefined);
    }
    const full = statSync(file()).size;
    await readings.clear(Date.now());
    expect(await readings.bytesOf(id, "tape-100")).toBeDefined();
    await readings.clear(Date.now() + GRACE_MS + 1);
    expect(await readings.bytesOf(id, "tape-100")).toBeUndefined();
    const held = ((await readings.bytesOf(id, stay))?.length ?? 0) + JSON.stringify(base).length;
    expect(full).toBeGreaterThan(20_000_000);
    // Tables and indices of an almost empty database take some 80 kB.
    expect(statSync(file()).size).toBeLessThan(2 * held + 80_000);
    await database.close();
  });

  it("are not cleared away while they are on their way in", async () => {
    const database = await openDatabase(data);
    const { projects, readings } = stores(database);
    const id = await projects.add(kept(emptyProject("One")));
    const body = readingsBody(1, 200_000);
    const [, end] = await Promise.all([
      readings.clear(Date.now() + 2 * GRACE_MS),
      readings.putTape(id, "a" as TapeId, body, Date.now()),
      readings.clear(Date.now() + 2 * GRACE_MS),
    ]);
    expect(end).toBe("kept");
    const bytes = await readings.bytesOf(id, "a");
    expect(bytes?.length).toBe(body.parts.reduce((sum, part) => sum + part.length, 0));
    await database.close();
  });
});

describe("a project that was deleted", () => {
  it("is not there any more, but what belongs to it can be had for a day", async () => {
    const database = await openDatabase(data);
    const { projects, readings, frames } = stores(database);
    const document = withTape(emptyProject("Gone"), "tape-a");
    const id = await projects.add(kept(document, new Map([["tape-a" as TapeId, readingsOf(1, 30)]])));
    const now = Date.now();
    expect(await projects.remove(id, now)).toBe(true);
    expect(await projects.remove(id, now)).toBe(false);
    expect([await projects.get(id), await projects.has(id), await projects.list()]).toEqual([undefined, false, []]);
    await expect(projects.replace(id, 1, kept(document).document, undefined)).rejects.toThrow("not there");
    expect(await projects.markOpened(id)).toBe(false);
    const clear = async (at: number) => {
      await projects.clear(at);
      await frames.clear(at);
      await readings.clear(at);
    };
    await clear(now + GRACE_MS - 1);
    expect(await readings.bytesOf(id, "tape-a")).toBeDefined();
    await clear(now + GRACE_MS);
    expect(await readings.bytesOf(id, "tape-a")).toBeUndefined();
    expect(await database.read((m) => m.query(`SELECT COUNT(*) AS n FROM "readings_part"`))).toEqual([{ n: 0 }]);
    await database.close();
  });
});

describe("bytes that are altered in the database", () => {
  /** Two tapes, the first in two parts, and a frame; what is given out of them, and how a byte of each is altered. */
  async function altered() {
    const database = await openDatabase(data);
    const healed: string[] = [];
    const readings = new ReadingsStore(database, (words) => healed.push(words));
    const frames = new FrameStore(database, (words) => healed.push(words));
    const projects = new ProjectStore(database, readings, frames);
    const whole = new Map([
      ["long" as TapeId, readingsOf(1, 66_000)],
      ["short" as TapeId, readingsOf(2, 100)],
    ]);
    const id = await projects.add(kept(withTape(emptyProject("Altered"), "long", "short"), whole));
    const { name, png } = packFrame({
      width: 2,
      height: 1,
      channels: 3,
      data: Uint8Array.of(200, 60, 50, 20, 140, 130),
    });
    const frame = JOBS.readFrame({ bytes: Buffer.from(png, "base64") }, name);
    if ("fault" in frame) throw new Error(frame.fault.message);
    await frames.put(id, frame.frame, Date.now());
    const alter = (table: string, where: string, at: (length: number) => number) => {
      const raw = new Sqlite(file());
      const { bytes } = raw.prepare(`SELECT "bytes" FROM "${table}" WHERE ${where}`).get() as { bytes: Buffer };
      bytes[at(bytes.length)] ^= 0x40;
      raw.prepare(`UPDATE "${table}" SET "bytes" = ? WHERE ${where}`).run(bytes);
      raw.close();
    };
    const tape = (of: string) => readings.bytesOf(id, of);
    return { database, healed, alter, tape, frame: () => frames.bytesOf(id, name) };
  }
  const ofLong = (part: number) =>
    `"part" = ${part} AND "digest" = (SELECT "digest" FROM "tape" WHERE "tape" = 'long')`;

  it("are never given out: a tape or a frame that no backup has whole is named, the others are there", async () => {
    const { database, alter, tape, frame } = await altered();
    const [long, short] = [(await tape("long")) ?? Buffer.of(), await tape("short")];
    for (const [part, share] of [
      [0, 0],
      [0, 0.0001],
      [0, 0.5],
      [1, 0.3],
      [1, 1],
    ]) {
      const at = (length: number) => Math.min(length - 1, Math.floor(share * length));
      alter("readings_part", ofLong(part), at);
      await expect(tape("long")).rejects.toMatchObject({
        status: 503,
        message: expect.stringContaining("the readings of the tape “long” are damaged"),
      });
      alter("readings_part", ofLong(part), at);
      expect((await tape("long"))?.equals(long)).toBe(true);
    }
    alter("readings_part", ofLong(0), () => 5000);
    expect(await tape("short")).toEqual(short);
    alter("frame", "1", () => 60);
    await expect(frame()).rejects.toMatchObject({ status: 503, message: expect.stringContaining("are damaged") });
    await database.close();
  });

  it("are brought back from the latest backup that has them whole, and stay so", async () => {
    const { database, healed, alter, tape, frame } = await altered();
    const [long, picture] = [(await tape("long")) ?? Buffer.of(), (await frame()) ?? Buffer.of()];
    const same = async () => [(await tape("long"))?.equals(long), (await frame())?.equals(picture)];
    await backUp(database, data, new Date("2026-01-01"));
    alter("readings_part", ofLong(1), () => 5000);
    alter("frame", "1", () => 60);
    // The backup of the next day holds the damage already.
    await backUp(database, data, new Date("2026-01-02"));
    expect(await same()).toEqual([true, true]);
    expect(healed).toEqual([
      "the readings of the tape “long” were damaged, and are brought back from a backup",
      expect.stringMatching(/^the pixels of the frame [0-9a-f]{8} … were damaged, and are brought back from a backup$/),
    ]);
    rmSync(join(data, "backups"), { recursive: true });
    expect(await same()).toEqual([true, true]);
    await database.close();
  });
});

describe("backups", () => {
  it("are made once a day, the last seven are kept, and each can be brought back", async () => {
    const database = await openDatabase(data);
    const { projects } = stores(database);
    const noon = (day: number) => new Date(Date.UTC(2026, 0, day, 12));
    const ids: string[] = [];
    for (let day = 1; day <= 9; day++) {
      ids.push(await projects.add(kept(emptyProject(`Day ${day}`))));
      await backUp(database, data, noon(day));
      await backUp(database, data, noon(day));
    }
    expect(backupNames(data)).toEqual([9, 8, 7, 6, 5, 4, 3].map((day) => `2026-01-0${day}`));
    expect(readdirSync(join(data, "backups"))).toHaveLength(7);
    const aside = restore(data, "2026-01-04", noon(10));
    expect(existsSync(aside ?? "")).toBe(true);
    // The server that still runs notices that its file is another one.
    await expect(projects.add(kept(emptyProject("Late")))).rejects.toThrow("replaced");
    await database.close();
    const back = await openDatabase(data);
    expect((await stores(back).projects.list()).map((p) => p.name).sort()).toEqual([
      "Day 1",
      "Day 2",
      "Day 3",
      "Day 4",
    ]);
    await back.close();
  });

  it("that are missing or damaged are told, and nothing is changed", async () => {
    await (await openDatabase(data)).close();
    const before = statSync(file()).ino;
    expect(() => restore(data, "2026-01-01", new Date())).toThrow("there is none at all");
    mkdirSync(join(data, "backups"), { recursive: true });
    writeFileSync(
      join(data, "backups/perceptum-2026-01-01.sqlite"),
      "this is no database, and long enough for a header",
    );
    expect(() => restore(data, "2026-01-01", new Date())).toThrow("is damaged");
    expect(() => restore(data, "2026-01-02", new Date())).toThrow("there is 2026-01-01");
    expect(statSync(file()).ino).toBe(before);
  });
});

describe("a change", () => {
  it("that is repeated with its id is answered like the first time, and done once", async () => {
    const database = await openDatabase(data);
    const { projects } = stores(database);
    const base = emptyProject("One");
    const id = await projects.add(kept(base));
    const send = (name: string, revision: number, key: string) =>
      projects.replace(id, revision, documentOf({ ...base, name }), key);
    expect(await send("Two", 1, "key-of-two")).toBe(2);
    expect(await send("Two", 1, "key-of-two")).toBe(2);
    expect(await send("Three", 2, "key-of-three")).toBe(3);
    expect(await send("Two", 1, "key-of-two")).toBe(2);
    await expect(send("Four", 1, "key-of-four")).rejects.toMatchObject({ status: 412 });
    expect((await projects.list())[0]).toMatchObject({ name: "Three", revision: 3 });
    await database.close();
  });

  it("that names frames which are not here, or of another size, is refused; what it names no more goes after a day", async () => {
    const database = await openDatabase(data);
    const { projects, frames } = stores(database);
    const watch = bedWatch(packFrame);
    const names = watch.tapes[0].frames ?? [];
    const { document, readings } = splitProject(watch);
    const id = await projects.add(kept({ ...document, tapes: [] }));
    const { readings: raw } = stores(database);
    const times = JOBS.readReadings({ bytes: encodeReadings([...readings.values()][0]) });
    if ("fault" in times) throw new Error(times.fault.message);
    await raw.putTape(id, document.tapes[0].id, times.readings, 0);
    await expect(projects.replace(id, 1, documentOf(document), undefined)).rejects.toMatchObject({
      status: 409,
      more: { missingFrames: names },
    });
    const put = async (project: typeof watch) => {
      for (const [name, png] of Object.entries(project.frames ?? {})) {
        const read = JOBS.readFrame({ bytes: Buffer.from(png, "base64") }, name);
        if ("fault" in read) throw new Error(read.fault.message);
        await frames.put(id, read.frame, 0);
      }
    };
    await put(watch);
    const small = structuredClone(document);
    Object.assign(small.sensors[0], { frame: { width: 80, height: 60, rows: "top first" }, strip: undefined });
    small.tapes[0].boxes = [];
    await expect(projects.replace(id, 1, documentOf(small), undefined)).rejects.toMatchObject({ status: 422 });
    expect(await projects.replace(id, 1, documentOf(document), undefined)).toBe(2);
    // As if each were 15 MB: eight are 160 MB in base64.
    await database.write((m) => m.query(`UPDATE "frame" SET "size" = ${15 * 2 ** 20}`));
    await expect(projects.replace(id, 2, documentOf({ ...document, name: "Large" }), undefined)).rejects.toMatchObject({
      status: 413,
      message: expect.stringContaining("at most 150 MB can be kept"),
    });
    // What is named stays, however long; what is not goes after a day.
    await frames.clear(Date.now() + 2 * GRACE_MS);
    expect(await frames.bytesOf(id, names[3])).toEqual(Buffer.from(watch.frames?.[names[3]] ?? "", "base64"));
    await projects.replace(id, 2, documentOf({ ...document, tapes: [] }), undefined);
    await frames.clear(Date.now());
    expect(await frames.bytesOf(id, names[3])).toBeDefined();
    await frames.clear(Date.now() + 2 * GRACE_MS);
    expect(await frames.bytesOf(id, names[3])).toBeUndefined();
    expect(await database.read((m) => m.query(`SELECT COUNT(*) AS n FROM "frame"`))).toEqual([{ n: 0 }]);
    await database.close();
  });

  it("that names readings of another report, or more than a file holds, is refused", async () => {
    const database = await openDatabase(data);
    const { projects, readings } = stores(database);
    const base = emptyProject("One");
    const id = await projects.add(kept(base));
    const hue = JOBS.readReadings({
      bytes: encodeReadings({ t: new Float64Array(3), channels: { hue: new Float64Array(3) } }),
    });
    if ("fault" in hue) throw new Error("not read");
    await readings.putTape(id, "only-hue" as TapeId, hue.readings, 0);
    await expect(projects.replace(id, 1, documentOf(withTape(base, "only-hue")), undefined)).rejects.toMatchObject({
      status: 422,
      message: expect.stringContaining("holds hue readings; its sensor reports rgb"),
    });
    for (const tape of ["long-a", "long-b"] as TapeId[])
      await readings.putTape(id, tape, { ...readingsBody(tape === "long-a" ? 1 : 2, 10), textBytes: 30 * 2 ** 20 }, 0);
    expect(await projects.replace(id, 1, documentOf(withTape(base, "long-a")), undefined)).toBe(2);
    await expect(
      projects.replace(id, 2, documentOf(withTape(base, "long-a", "long-b")), undefined),
    ).rejects.toMatchObject({
      status: 413,
      message: expect.stringContaining("at most 50 MB"),
    });
    await database.close();
  });
});
