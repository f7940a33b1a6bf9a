import { combineReducers, configureStore } from "@reduxjs/toolkit";
import { useDispatch, useSelector } from "react-redux";
import { actReducer } from "./act";
import { api } from "./api";
import { documentReducer } from "./document";
import { HeldDrawing } from "./HeldDrawing";
import { proveReducer } from "./prove";
import { senseReducer } from "./sense";
import { viewReducer } from "./view";

const slices = combineReducers({
  document: documentReducer,
  view: viewReducer,
  sense: senseReducer,
  act: actReducer,
  prove: proveReducer,
  [api.reducerPath]: api.reducer,
});

/** The slices, and that the tape that is looked at is one of the project's: undo may have taken it away. */
const reducer: typeof slices = (state, action) => {
  const next = slices(state, action);
  const tapes = next.document.present?.tapes;
  if (tapes === undefined || tapes === state?.document?.present?.tapes) return next;
  if (tapes.some((tape) => tape.id === next.view.tape)) return next;
  return { ...next, view: { ...next.view, tape: tapes.at(-1)?.id ?? null } };
};

/** A store; `drawHeld` draws at once what a drag has changed and what waits for its judgement. */
export function makeStore() {
  const drawing = new HeldDrawing();
  const store = configureStore({
    reducer,
    // The document is large and Immer keeps it immutable: walking it on every action would cost more than the action.
    middleware: (defaults) => defaults({ immutableCheck: false, serializableCheck: false }).concat(api.middleware),
    enhancers: (defaults) => defaults({ autoBatch: { type: "callback", queueNotification: drawing.hold } }),
  });
  return Object.assign(store, { drawHeld: drawing.draw });
}

export type AppStore = ReturnType<typeof makeStore>;
export type AppState = ReturnType<typeof reducer>;
export const useAppDispatch = useDispatch.withTypes<AppStore["dispatch"]>();
export const useAppSelector = useSelector.withTypes<AppState>();
