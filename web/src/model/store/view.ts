import type { MarkId, RuleId, RuleSetId, SensorId, TapeId, TargetId } from "@perceptum/core/names";
import type { RuleSet } from "@perceptum/core/rules";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { opened } from "./document";
import { proveViewChosen } from "./prove";

/** What lies under the playhead: a tape, the run that was made last, or what is being recorded. */
export type Source = TapeId | "run" | "live";

/** What all stages share: the tape below them, and what is chosen in more than one of them. */
interface ViewState {
  /** The sensor and the rule set that are worked on. */
  sensor: SensorId | null;
  ruleSet: RuleSetId | null;
  /** The part of each source that the tape panel shows, in ms; all of it where none is chosen. */
  windows: Record<string, { from: number; to: number }>;
  /** The mark that is chosen on the tape. */
  mark: MarkId | null;
  /** Rules that are kept to compare with. */
  before: readonly RuleSet[] | null;
  tape: TapeId | null;
  /** The sensor through which a run with several is looked at; the first where none is chosen. */
  runEye: SensorId | null;
  /** Whether the run's own tape lies below, as it does in Prove. */
  runBelow: boolean;
  /** The playhead on each source, in ms. */
  playheads: Record<string, number>;
  playing: boolean;
  speed: number;
  /** The instant that the pointer is over, wherever it is. */
  hover: { source: Source; t: number } | null;
  rule: RuleId | null;
  /** Which rules of a set were on before one was left alone. */
  beforeSolo: { ruleSet: RuleSetId; on: readonly RuleId[] } | null;
  target: TargetId | null;
  /** What a stage has open beside its panes. */
  open: "suggestion" | "checks" | null;
}

const initialState: ViewState = {
  sensor: null,
  ruleSet: null,
  windows: {},
  mark: null,
  before: null,
  tape: null,
  runEye: null,
  runBelow: false,
  playheads: {},
  playing: false,
  speed: 4,
  hover: null,
  rule: null,
  beforeSolo: null,
  target: null,
  open: null,
};

const slice = createSlice({
  name: "view",
  initialState,
  reducers: {
    openSet(state, { payload }: PayloadAction<ViewState["open"]>) {
      state.open = payload;
    },
    tapeChosen(state, { payload }: PayloadAction<TapeId>) {
      if (state.tape !== payload) state.mark = null;
      state.tape = payload;
      state.playing = false;
    },
    runEyeChosen(state, { payload }: PayloadAction<SensorId>) {
      state.runEye = payload;
    },
    runPutBelow(state, { payload }: PayloadAction<boolean>) {
      if (state.runBelow !== payload) state.playing = false;
      state.runBelow = payload;
    },
    playheadMoved(state, { payload }: PayloadAction<{ source: Source; t: number }>) {
      state.playheads[payload.source] = payload.t;
    },
    playingSet(state, { payload }: PayloadAction<boolean>) {
      state.playing = payload;
    },
    speedChosen(state, { payload }: PayloadAction<number>) {
      state.speed = payload;
    },
    sensorChosen(state, { payload }: PayloadAction<{ sensor: SensorId; ruleSet: RuleSetId }>) {
      state.sensor = payload.sensor;
      state.ruleSet = payload.ruleSet;
    },
    ruleSetChosen(state, { payload }: PayloadAction<RuleSetId>) {
      state.ruleSet = payload;
      state.rule = null;
    },
    windowChosen(state, { payload }: PayloadAction<{ source: Source; from: number; to: number } | { source: Source }>) {
      if ("from" in payload) state.windows[payload.source] = { from: payload.from, to: payload.to };
      else delete state.windows[payload.source];
    },
    markChosen(state, { payload }: PayloadAction<MarkId | null>) {
      state.mark = payload;
    },
    beforeKept(state, { payload }: PayloadAction<readonly RuleSet[] | null>) {
      state.before = payload as RuleSet[] | null;
    },
    hovered(state, { payload }: PayloadAction<ViewState["hover"]>) {
      state.hover = payload;
    },
    ruleChosen(state, { payload }: PayloadAction<{ rule: RuleId; target: TargetId } | null>) {
      state.rule = payload?.rule ?? null;
      if (payload) state.target = payload.target;
    },
    soloBegan(state, { payload }: PayloadAction<{ ruleSet: RuleSetId; on: RuleId[] }>) {
      state.beforeSolo = payload;
    },
    targetChosen(state, { payload }: PayloadAction<TargetId | null>) {
      state.target = payload;
    },
  },
  extraReducers: (builder) =>
    builder
      // Another view of a stage begins with nothing open beside it.
      .addCase(proveViewChosen, (state) => {
        state.open = null;
      })
      .addCase(opened, (_, { payload: { project } }) => {
        const tape = project.tapes.at(-1);
        // The sensor whose tape is shown, so that what stands beside it is of the same one.
        const sensor = project.sensors.find((s) => s.id === tape?.sensor) ?? project.sensors[0];
        const first = project.ruleSets.find((set) => set.id === sensor?.ruleSet)?.rules[0];
        return {
          ...initialState,
          sensor: sensor?.id ?? null,
          ruleSet: sensor?.ruleSet ?? null,
          tape: tape?.id ?? null,
          // The playhead begins where there is something to see: in the middle of each tape's first target.
          playheads: Object.fromEntries(
            project.tapes.flatMap(({ id, marks }) => {
              const first = marks.find((m) => project.targets.find((t) => t.id === m.target)?.kind !== "background");
              return first ? [[id, (first.from + first.to) / 2]] : [];
            }),
          ),
          rule: first?.id ?? null,
          target: first?.target ?? null,
        };
      }),
});

export const {
  openSet,
  tapeChosen,
  runEyeChosen,
  runPutBelow,
  playheadMoved,
  playingSet,
  speedChosen,
  sensorChosen,
  ruleSetChosen,
  windowChosen,
  markChosen,
  beforeKept,
  hovered,
  ruleChosen,
  soloBegan,
  targetChosen,
} = slice.actions;
export const viewReducer = slice.reducer;
