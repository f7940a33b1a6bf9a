import { execFileSync } from "node:child_process";
import { emptyProject, joinReadings, type ProjectDocument } from "../core/project";
import { type RunningServer, startServer } from "./server";

const JSON_TYPE = { "Content-Type": "application/json" };

/** What a server answered for and what of it was gone afterwards. */
export interface FaultCount {
  answered: number;
  refused: number;
  lost: number;
}

/** A project at a server whose answered changes are remembered over the server's ends. */
export class Witness {
  private revision = 0;
  private name = "";
  readonly count: FaultCount = { answered: 0, refused: 0, lost: 0 };

  private constructor(
    readonly id: string,
    private readonly document: ProjectDocument,
  ) {}

  static async begin(server: RunningServer): Promise<Witness> {
    const document = emptyProject("Begun");
    const response = await fetch(`${server.url}/api/projects`, {
      method: "POST",
      headers: JSON_TYPE,
      body: JSON.stringify(joinReadings(document, new Map())),
    });
    const witness = new Witness(((await response.json()) as { id: string }).id, document);
    witness.revision = 1;
    witness.name = document.name;
    return witness;
  }

  /** Changes the project; an answer of 2xx is remembered. Whether it came. */
  async change(server: RunningServer, name: string): Promise<number> {
    const response = await fetch(`${server.url}/api/projects/${this.id}`, {
      method: "PUT",
      headers: { ...JSON_TYPE, "If-Match": `"${this.revision}"` },
      body: JSON.stringify({ ...this.document, name }),
    });
    if (response.ok) {
      this.count.answered++;
      this.revision++;
      this.name = name;
    } else this.count.refused++;
    return response.status;
  }

  /** Looks whether what was answered last is there. */
  async look(server: RunningServer): Promise<void> {
    const response = await fetch(`${server.url}/api/projects/${this.id}`);
    const revision = Number(response.headers.get("ETag")?.replace(/\W/g, ""));
    const { name } = (await response.json()) as { name: string };
    if (revision < this.revision || (revision === this.revision && name !== this.name)) this.count.lost++;
    this.revision = revision;
    this.name = name;
  }
}

/** Less than one page of the write-ahead log needs: no commit finds room. */
export const NO_ROOM = 4096;

/** Lets the files of a running server grow to so many bytes and no further; `unlimited` lifts it. */
export const limitFiles = (server: RunningServer, bytes: number | "unlimited") =>
  execFileSync("prlimit", ["--pid", String(server.process.pid), `--fsize=${bytes}:unlimited`]);

/** Ends the server by a signal and waits until it is gone. */
export async function endBy(server: RunningServer, signal: "SIGKILL" | "SIGTERM"): Promise<void> {
  const gone = new Promise((done) => server.process.once("exit", done));
  server.process.kill(signal);
  await gone;
}

/**
 * Kills a server over and over right behind an answer, lets commits fail for want of room, and stops it in between;
 * counts what was answered and is gone.
 */
export async function tryFaults(
  data: string,
  { kills, failedCommits }: { kills: number; failedCommits: number },
): Promise<FaultCount> {
  let server = await startServer({ data });
  const witness = await Witness.begin(server);
  const failEvery = Math.max(1, Math.floor(kills / Math.max(1, failedCommits)));
  let failed = 0;
  for (let round = 0; round < kills; round++) {
    await witness.change(server, `Round ${round}`);
    if (failed < failedCommits && round % failEvery === 0) {
      limitFiles(server, NO_ROOM);
      if ((await witness.change(server, `Refused ${round}`)) >= 500) failed++;
      limitFiles(server, "unlimited");
      await witness.change(server, `After ${round}`);
    }
    await endBy(server, round % 10 === 4 ? "SIGTERM" : "SIGKILL");
    server = await startServer({ data });
    await witness.look(server);
  }
  await server.stop();
  return { ...witness.count, refused: failed };
}
