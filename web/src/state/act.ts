import type { ModeId } from "@perceptum/core/names";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { opened } from "./document";

/** Which cell of the response grid is chosen. */
export type Cell =
  | { mode: ModeId; response: string }
  | { mode: ModeId; entering: true }
  | { mode: ModeId; ignored: string }
  | { routine: string };

/** What Act shows: the grid of responses, the modes as a diagram, the behaviour in words, or a tape's rehearsal. */
export type ActView = "grid" | "diagram" | "words" | "rehearsal";

interface ActState {
  shown: ActView;
  cell: Cell | null;
}

const initialState: ActState = { shown: "grid", cell: null };

const slice = createSlice({
  name: "act",
  initialState,
  reducers: {
    actViewChosen(state, { payload }: PayloadAction<ActView>) {
      state.shown = payload;
    },
    cellChosen(state, { payload }: PayloadAction<Cell | null>) {
      state.cell = payload;
    },
  },
  extraReducers: (builder) => builder.addCase(opened, () => initialState),
});

export const { actViewChosen, cellChosen } = slice.actions;
export const actReducer = slice.reducer;
