import type { LightId } from "@perceptum/core/names";
import type { StandSettings } from "@perceptum/core/world";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { opened } from "./document";

/** What Sense shows. */
interface SenseState {
  /** A tape, the bench sensor or the computer’s camera, or what comes over a link. */
  watching: "tape" | "bench" | "live";
  stand: StandSettings;
  /** The light that a robot's readings come in, as marks note it; null where nobody has said. */
  liveLight: LightId | null;
}

const initialState: SenseState = {
  watching: "tape",
  stand: { under: "open-air", beside: null, share: 0.5, light: null, height: 14, tilt: 0, tremble: 0.4 },
  liveLight: null,
};

const slice = createSlice({
  name: "sense",
  initialState,
  reducers: {
    watchingChosen(state, { payload }: PayloadAction<SenseState["watching"]>) {
      state.watching = payload;
    },
    standSet(state, { payload }: PayloadAction<Partial<StandSettings>>) {
      Object.assign(state.stand, payload);
    },
    liveLightSet(state, { payload }: PayloadAction<LightId | null>) {
      state.liveLight = payload;
    },
  },
  extraReducers: (builder) =>
    builder.addCase(opened, (_, { payload: { project } }) => ({
      watching: project.tapes.length === 0 ? "bench" : "tape",
      stand: { ...initialState.stand, light: project.lights[0]?.id ?? null },
      liveLight: null,
    })),
});

export const { liveLightSet, watchingChosen, standSet } = slice.actions;
export const senseReducer = slice.reducer;
