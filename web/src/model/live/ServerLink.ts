import { EVENTS, type EventName, type EventOf } from "@perceptum/contract";
import { at } from "@perceptum/contract/paths";
import type { Listens } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { answerOf, problemOf, sentence } from "../../server/api";
import { ask } from "../../server/ask";
import { RobotLink } from "./RobotLink";

/** The sentence for a link that another page took. */
const TAKEN = "Another page has opened this link. Close it there, then open it here again.";

/** A server that went away is asked for again after so long, in ms. */
const AGAIN_MS = 1000;

/** A link that the server holds: a robot that sends to it, or one to which it opens a line. */
export class ServerLink extends RobotLink {
  private events: EventSource | null = null;
  private ended = false;
  private again: ReturnType<typeof setTimeout> | undefined;
  /** The request that begins or changes what acts, and the project that goes after it. */
  private asking: AbortController | null = null;
  private next: ProjectDocument | null = null;

  constructor(
    private readonly id: string,
    private readonly address: string | null,
    private listens: Listens,
  ) {
    super();
    void this.open();
  }

  private async open(): Promise<void> {
    try {
      const answer = await asked("POST", at("opening", { link: this.id }), this.listens);
      const { watch } = await answerOf("openLink", answer);
      if (!this.ended) this.hear(watch);
    } catch (error) {
      if (!this.ended) this.lose(sentence((error as Error).message));
    }
  }

  private hear(watch: string): void {
    const { id } = this;
    const events = new EventSource(`${at("events", { link: id })}?watch=${watch}`);
    this.events = events;
    const on = <K extends EventName>(kind: K, hear: (data: EventOf<K>) => void) =>
      events.addEventListener(kind, (event) => {
        const { data } = event as MessageEvent<string | undefined>;
        // What the browser itself tells of the connection has no data.
        if (data === undefined) return;
        const said = EVENTS[kind].safeParse(JSON.parse(data));
        if (said.success) hear(said.data as EventOf<K>);
        else
          this.close(
            "The server told something that this page does not understand. The link is closed; load the page again.",
          );
      });
    on("open", () => void this.opened());
    on("readings", (event) => this.readings(event));
    on("picture", (event) => this.picture(event, at("picture", { link: id, n: event.n })));
    on("moment", (moment) => this.moment(moment));
    on("state", (state) => {
      this.state(state);
      // The events end with the link: that the server is gone would be said in the place of why.
      if (state.over) this.leave();
    });
    on("missed", ({ count }) =>
      this.change({ trouble: `${count.toLocaleString("en")} readings were not shown: this page did not keep up.` }),
    );
    on("taken", () => this.close(TAKEN));
    events.addEventListener("error", () => {
      events.close();
      if (!this.ended) this.lose("The server is not answering.");
    });
  }

  /** The server went away. A robot that sends by POST goes on with it; a line is another one then, and nothing acts by itself. */
  private lose(trouble: string): void {
    const { phase, acting } = this.now.get();
    if (this.address !== null || acting || phase === "opening") {
      const stops = acting ? " A robot that was acted on stops by itself." : "";
      this.close(`${trouble} The link is closed.${stops}`);
      return;
    }
    this.change({ trouble: `${trouble} The link opens again with it. What was recorded so far is kept.` });
    this.again = setTimeout(() => void this.open(), AGAIN_MS);
  }

  private async opened(): Promise<void> {
    try {
      if (this.address !== null) await asked("PUT", at("wire", { link: this.id }), { address: this.address });
      this.change({ phase: "open", trouble: null });
    } catch (error) {
      if (!this.ended) this.close(sentence((error as Error).message));
    }
  }

  private close(trouble: string): void {
    this.leave();
    this.over(trouble);
  }

  private leave(): void {
    this.ended = true;
    clearTimeout(this.again);
    this.asking?.abort();
    this.events?.close();
  }

  override listenBy(listens: Listens): void {
    this.listens = listens;
    if (this.now.get().phase !== "open") return;
    asked("PUT", at("listens", { link: this.id }), listens).catch((error: Error) => {
      if (!this.ended)
        this.change({
          trouble: `The server does not know the sensors as they are now: ${error.message}. Open the link again.`,
        });
    });
  }

  protected begin(act: string, project: ProjectDocument): void {
    this.next = null;
    void this.ask("POST", act, project);
  }

  /** Changes go one at a time, and of those that wait only the last. */
  protected alter(act: string, project: ProjectDocument): void {
    if (this.asking !== null) this.next = project;
    else void this.ask("PUT", act, project);
  }

  private async ask(method: "POST" | "PUT", act: string, project: ProjectDocument): Promise<void> {
    const asking = new AbortController();
    this.asking = asking;
    try {
      await asked(method, this.of(act), project, asking.signal);
    } catch (error) {
      if (!asking.signal.aborted) this.failed(act, error);
    }
    if (this.asking !== asking) return;
    this.asking = null;
    const { next } = this;
    this.next = null;
    if (next !== null) this.follow(next);
  }

  protected watch(act: string): void {
    // Where the server is gone the robot stops by itself, and the events tell of it.
    fetch(at("watched", { link: this.id, act }), { method: "PUT" }).catch(() => undefined);
  }

  protected halt(act: string): void {
    // A request on its way is given up; the server knows that it must not act by it.
    this.asking?.abort();
    this.asking = null;
    this.next = null;
    asked("DELETE", this.of(act)).catch(() => {
      if (!this.ended)
        this.close("The server is not answering. The link is closed; the robot stops by itself within 1.5 s.");
    });
  }

  private of(act: string): string {
    return at("act", { link: this.id, act });
  }

  override end(): void {
    super.end();
    this.leave();
  }
}

/** Asks something of the server. @throws Error with a sentence */
async function asked(
  method: "POST" | "PUT" | "DELETE",
  path: string,
  body?: object,
  signal?: AbortSignal,
): Promise<Response> {
  const response = await ask(path, {
    method,
    headers: { "Content-Type": "application/json" },
    // A stop outlives the page.
    keepalive: method === "DELETE",
    ...(body !== undefined && { body: JSON.stringify(body) }),
    ...(signal !== undefined && { signal }),
  });
  if (!response.ok) throw new Error(await problemOf(response));
  return response;
}
