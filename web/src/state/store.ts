import { combineReducers, configureStore } from "@reduxjs/toolkit";
import { useDispatch, useSelector } from "react-redux";
import { api } from "./api";
import { documentReducer } from "./document";
import { viewReducer } from "./view";

const reducer = combineReducers({ document: documentReducer, view: viewReducer, [api.reducerPath]: api.reducer });

export function makeStore() {
  return configureStore({
    reducer,
    // The document is large and Immer keeps it immutable: walking it on every action would cost more than the action.
    middleware: (defaults) => defaults({ immutableCheck: false, serializableCheck: false }).concat(api.middleware),
  });
}

export type AppStore = ReturnType<typeof makeStore>;
export type AppState = ReturnType<typeof reducer>;
export const useAppDispatch = useDispatch.withTypes<AppStore["dispatch"]>();
export const useAppSelector = useSelector.withTypes<AppState>();
