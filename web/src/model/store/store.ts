import {
  type combineReducers,
  combineSlices,
  configureStore,
  createDynamicMiddleware,
  type Middleware,
  type Reducer,
} from "@reduxjs/toolkit";
import { actReducer } from "./act";
import { documentReducer } from "./document";
import { HeldDrawing } from "./HeldDrawing";
import { proveReducer } from "./prove";
import { senseReducer } from "./sense";
import { viewReducer } from "./view";

const SLICES = {
  document: documentReducer,
  view: viewReducer,
  sense: senseReducer,
  act: actReducer,
  prove: proveReducer,
};
type Slices = ReturnType<typeof combineReducers<typeof SLICES>>;

/** The slices, and that the tape that is looked at is one of the project's: undo may have taken it away. */
const withKnownTape =
  (slices: Slices): Slices =>
  (state, action) => {
    const next = slices(state, action);
    const tapes = next.document.present?.tapes;
    if (tapes === undefined || tapes === state?.document?.present?.tapes) return next;
    if (tapes.some((tape) => tape.id === next.view.tape)) return next;
    return { ...next, view: { ...next.view, tape: tapes.at(-1)?.id ?? null } };
  };

/** A slice with its middleware, which comes when it is first needed. */
interface Later {
  reducerPath: string;
  reducer: Reducer;
  middleware: Middleware;
}

/**
 * A store; `drawHeld` draws what a drag has changed and what waits for its judgement, at once or when those who called
 * `holdMore` are ready too.
 */
export function makeStore() {
  const drawing = new HeldDrawing();
  const slices = combineSlices(SLICES);
  const later = createDynamicMiddleware();
  const store = configureStore({
    reducer: withKnownTape(slices as unknown as Slices),
    // The document is large and Immer keeps it immutable: walking it on every action would cost more than the action.
    middleware: (defaults) => defaults({ immutableCheck: false, serializableCheck: false }).concat(later.middleware),
    enhancers: (defaults) => defaults({ autoBatch: { type: "callback", queueNotification: drawing.hold } }),
  });
  return Object.assign(store, {
    drawHeld: drawing.draw,
    holdMore: drawing.holdMore,
    /** Takes a slice in; one that is there already stays. */
    takeIn({ reducerPath, reducer, middleware }: Later) {
      if (reducerPath in store.getState()) return;
      slices.inject({ reducerPath, reducer } as never);
      later.addMiddleware(middleware);
      store.dispatch({ type: `${reducerPath} is there` });
    },
  });
}

export type AppStore = ReturnType<typeof makeStore>;
export type AppState = ReturnType<Slices>;
