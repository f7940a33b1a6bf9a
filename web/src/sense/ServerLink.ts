import type { LinkState, LiveMoment, PictureEvent, ReadingsEvent } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { problemOf } from "../state/api";
import { TAKEN } from "./link";
import { RobotLink, sentence } from "./RobotLink";

/** A link that the server holds: a robot that sends to it, or one to which it opens a line. */
export class ServerLink extends RobotLink {
  private readonly events: EventSource;

  constructor(
    private readonly id: string,
    private readonly address: string | null,
  ) {
    super();
    this.events = new EventSource(`/api/links/${id}/events`);
    const on = <E>(kind: string, hear: (data: E) => void) =>
      this.events.addEventListener(kind, (event) => {
        const { data } = event as MessageEvent<string | undefined>;
        // What the browser itself tells of the connection has no data.
        if (data !== undefined) hear(JSON.parse(data) as E);
      });
    on("open", () => void this.opened());
    on<ReadingsEvent>("readings", (event) => this.readings(event));
    on<PictureEvent>("picture", (event) => this.picture(event, `/api/links/${id}/pictures/${event.n}`));
    on<LiveMoment>("moment", (moment) => this.moment(moment));
    on<LinkState>("state", (state) => this.state(state));
    on<{ count: number }>("missed", ({ count }) =>
      this.change({ trouble: `${count.toLocaleString("en")} readings were not shown: this page did not keep up.` }),
    );
    on("taken", () => this.close(TAKEN));
    this.events.addEventListener("error", () => {
      // A robot that sends by POST goes on with the server; a line is another one then, and nothing acts by itself.
      if (this.address !== null || this.now.get().acting)
        this.close("The server does not answer. The link is closed; a robot that was acted on stops by itself.");
      else
        this.change({
          trouble: "The server does not answer; the link opens again with it. What was recorded so far is kept.",
        });
    });
  }

  private async opened(): Promise<void> {
    if (this.address === null) {
      this.change({ phase: "open", trouble: null });
      return;
    }
    try {
      await asked("PUT", `/api/links/${this.id}/wire`, { address: this.address });
      this.change({ phase: "open", trouble: null });
    } catch (error) {
      this.close(sentence((error as Error).message));
    }
  }

  private close(trouble: string): void {
    this.events.close();
    this.change({ phase: "closed", acting: false, trouble });
  }

  protected send(project: ProjectDocument): Promise<void> {
    return asked("PUT", `/api/links/${this.id}/act`, project);
  }

  stop(): void {
    this.change({ acting: false });
    asked("DELETE", `/api/links/${this.id}/act`).catch(() =>
      this.close("The server does not answer. The link is closed; the robot stops by itself within 1.5 s."),
    );
  }

  override end(): void {
    this.events.close();
    super.end();
  }
}

/** Asks something of the server. @throws Error with a sentence */
async function asked(method: "PUT" | "DELETE", path: string, body?: object): Promise<void> {
  const response = await fetch(path, {
    method,
    headers: { "Content-Type": "application/json" },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  if (!response.ok) throw new Error(await problemOf(response));
}
