import { problemOf } from "./api";
import { saveBegan, saved, saveFailed } from "./document";
import type { AppStore } from "./store";
import { forgetUnsent, keepUnsent } from "./unsent";

/** A change is sent when nothing more was changed for this long. */
const QUIET_MS = 400;
/** Browsers let at most 64 KiB outlive a page. */
const MOST_KEEPALIVE = 60_000;
/** When the server could not be reached, the next try comes after this long. */
const AGAIN_MS = 3000;

/**
 * Sends every change with the revision it was made on, one request at a time. It lies in the browser first, so that
 * nothing typed is lost where the server does not answer or another window was faster.
 */
export function startAutosave(store: AppStore): void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let planned: { present: unknown; revision: number } = { present: null, revision: -1 };
  let sending = false;

  const plan = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void send(), ms);
  };

  async function send(): Promise<void> {
    const { id, present, revision, saving } = store.getState().document;
    if (id === null || present === null || saving === "saved" || saving === "conflict" || sending) return;
    sending = true;
    await keepUnsent({ id, revision, project: present, at: Date.now() }).catch(() => undefined);
    store.dispatch(saveBegan());
    const failed = await put(id, revision, present);
    sending = false;
    if (store.getState().document.id !== id) return;
    if (failed === undefined) {
      store.dispatch(saved({ project: present, revision: revision + 1 }));
      await forgetUnsent(id).catch(() => undefined);
    } else {
      store.dispatch(saveFailed(failed));
      if (!failed.conflict) plan(AGAIN_MS);
    }
  }

  async function put(
    id: string,
    revision: number,
    project: unknown,
  ): Promise<{ conflict: boolean; message: string } | undefined> {
    const body = new Blob([JSON.stringify(project)]);
    try {
      const response = await fetch(`/api/projects/${id}`, {
        method: "PUT",
        headers: { "Content-Type": "application/json", "If-Match": `"${revision}"` },
        body,
        // A small one outlives the page; browsers refuse that for larger ones, which then lie in the browser until the next visit.
        keepalive: body.size < MOST_KEEPALIVE,
      });
      return response.ok ? undefined : { conflict: response.status === 412, message: await problemOf(response) };
    } catch {
      return {
        conflict: false,
        message: "The server cannot be reached. Your changes are kept in this browser and sent as soon as it answers.",
      };
    }
  }

  store.subscribe(() => {
    const { saving, present, revision } = store.getState().document;
    // What is to be sent has changed if the document has, or the revision that it is to be sent on.
    if (saving !== "unsaved" || (present === planned.present && revision === planned.revision)) return;
    planned = { present, revision };
    plan(QUIET_MS);
  });
  // Leaving the page sends at once what still waits.
  window.addEventListener("pagehide", () => void send());
}
