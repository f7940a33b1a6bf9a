import { type Project, splitProject } from "@perceptum/core/project";
import { packReadings } from "@perceptum/core/readings";
import { cleanup, render } from "@testing-library/react";
import { userEvent } from "@testing-library/user-event";
import type { ReactNode } from "react";
import { Provider } from "react-redux";
import { MemoryRouter } from "react-router";
import { ThemeProvider } from "styled-components";
import { vi } from "vitest";
import { SessionContext, SessionsContext } from "../src/hooks/context";
import { fakeSurroundings, SilentWorker, workerOf } from "../src/model/fakes";
import { Sessions } from "../src/model/session/Sessions";
import { opened } from "../src/model/store/document";
import { makeStore } from "../src/model/store/store";
import type { WorkerName } from "../src/model/surroundings";
import { theme } from "../src/ui/theme";

/** Shows a part of the page that needs no project; gives the hand that uses it. */
export function shown(part: ReactNode) {
  cleanup();
  return { ...render(<ThemeProvider theme={theme}>{part}</ThemeProvider>), hand: userEvent.setup() };
}

/** The work of workers, done in the page's own thread. */
export type Working = Partial<Record<WorkerName, object>>;

/** Shows a part of the page for an open project. Its server stays silent, and so do workers whose work is not given. */
export async function shownFor(project: Project, part: ReactNode, working: Working = {}) {
  cleanup();
  vi.stubGlobal("fetch", () => new Promise(() => undefined));
  const startWorker = (name: WorkerName) => {
    const work = working[name];
    return work === undefined ? (new SilentWorker() as unknown as Worker) : workerOf(work);
  };
  const store = makeStore();
  const sessions = new Sessions(store, fakeSurroundings({ startWorker }));
  const session = sessions.make("shown");
  const { document } = splitProject(project);
  for (const { id, readings } of project.tapes) session.readings.add(id, packReadings(readings));
  store.dispatch(opened({ id: "shown", project: document, revision: 1 }));
  await session.prepare();
  const made = render(
    <Provider store={store}>
      <ThemeProvider theme={theme}>
        <SessionsContext value={sessions}>
          <SessionContext value={session}>
            <MemoryRouter initialEntries={["/p/shown/act"]}>{part}</MemoryRouter>
          </SessionContext>
        </SessionsContext>
      </ThemeProvider>
    </Provider>,
  );
  return {
    ...made,
    session,
    store,
    /** The project as it is now. */
    present: () => store.getState().document.present ?? document,
    /** What undo would take back, the last first. */
    undoable: () => store.getState().document.past.map(({ did }) => did),
  };
}
