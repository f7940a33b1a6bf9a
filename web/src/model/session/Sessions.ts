import type { AppStore } from "../store/store";
import type { Surroundings } from "../surroundings";
import { EditTable } from "./Editing";
import { ProjectSession } from "./ProjectSession";

/** Makes sessions: one project is open at a time, and is opened again only when its last change is sent. */
export class Sessions {
  private readonly table = new EditTable();
  private readonly leaving = new Map<string, Promise<void>>();

  constructor(
    private readonly store: AppStore,
    readonly surroundings: Surroundings,
  ) {}

  /** A session that is not open yet. */
  make(id: string): ProjectSession {
    return new ProjectSession(id, this.store, this.surroundings, this.table);
  }

  /** Opens a session. @throws Error with a sentence */
  async open(session: ProjectSession): Promise<void> {
    await this.leaving.get(session.id);
    await session.open();
  }

  leave(session: ProjectSession): void {
    const left = session.leave().catch(() => undefined);
    this.leaving.set(session.id, left);
    void left.then(() => {
      if (this.leaving.get(session.id) === left) this.leaving.delete(session.id);
    });
  }
}
