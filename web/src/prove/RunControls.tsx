import type { LightId } from "@perceptum/core/names";
import { type Course, courseKindOf } from "@perceptum/core/world";
import { memo, useState } from "react";
import { useSession } from "../hooks/context";
import { useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished } from "../hooks/usePublished";
import type { LastRun } from "../model/judging/Mentor";
import { type ProveTab, proveTabChosen, runChosen } from "../model/store/prove";
import { playheadMoved, playingSet } from "../model/store/view";
import { useTransport } from "../tape/useTransport";
import { Button, Choice } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Dim, Spacer } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { Select } from "../ui/Select";
import { KeepRun } from "./KeepRun";
import { SaveTrace } from "./SaveTrace";

// These are drawn anew only with what they show: not with each moment of a run that plays.

const LightsSheet = lazily(() => import("../lights/LightsSheet").then((m) => m.LightsSheet));

const TABS: readonly { id: ProveTab; text: string }[] = [
  { id: "checks", text: "Checks" },
  { id: "why", text: "Why" },
  { id: "things", text: "Things" },
  { id: "log", text: "Log" },
];

/** The reason why what needs a run cannot be pressed. */
const NOT_RUN = "Make a run first.";

/** Start, light and seed of the next run. */
export const RunChoice = memo(function RunChoice(props: { course: Course; start: string; light: LightId | null }) {
  const { course, start, light } = props;
  const project = useSettledProject();
  const seed = useAppSelector((state) => state.prove.seed);
  const dispatch = useAppDispatch();
  const [lighting, setLighting] = useState(false);
  const takeSeed = (text: string) => {
    const typed = Number(text);
    if (text.trim() === "" || !Number.isInteger(typed) || typed < 0 || typed > 2_147_483_647)
      return "A seed is a whole number from 0 to 2147483647.";
    dispatch(runChosen({ seed: typed }));
    return undefined;
  };
  return (
    <>
      {courseKindOf(course).parts.includes("starts") && (
        <Select
          label="start"
          value={start}
          options={course.starts.map((s) => ({ id: s.name, text: s.name }))}
          onChange={(name) => dispatch(runChosen({ start: name }))}
        />
      )}
      <Select
        label="light"
        value={(light ?? "") as string}
        options={project.lights.map((l) => ({ id: l.id as string, text: l.name }))}
        onChange={(id) => dispatch(runChosen({ light: id as LightId }))}
      />
      <Button $small aria-label="Lights …" onPress={() => setLighting(true)}>
        …
      </Button>
      <Dim>seed</Dim>
      <EntryField
        mono
        label="Seed"
        text={String(seed)}
        take={takeSeed}
        step={(d, n) => dispatch(runChosen({ seed: Math.max(0, seed + d * n) }))}
      />
      {lighting && <LightsSheet onClose={() => setLighting(false)} />}
    </>
  );
});

/** Shows and hides what the run's counters and motors stand at. */
export const ShowNumbers = memo(function ShowNumbers(props: {
  none: boolean;
  on: boolean;
  onChange: (on: boolean) => void;
}) {
  const { none, on, onChange } = props;
  return (
    <Button $small aria-pressed={on} why={none && NOT_RUN} onPress={() => onChange(!on)}>
      Numbers
    </Button>
  );
});

/** A run is made, played, stepped through, compared and kept: not the one that another takes the place of just now. */
export const RunButtons = memo(function RunButtons(props: {
  shown: LastRun | null;
  isFirst: boolean;
  isMade: boolean;
  hasLight: boolean;
  onRun: () => void;
}) {
  const { shown, isFirst, isMade, hasLight, onRun } = props;
  const { mentor } = useSession();
  const kept = usePublished(mentor.keptRun);
  const dispatch = useAppDispatch();
  const transport = useTransport();
  const made = isMade && "The run is being made.";
  const none = shown === null ? NOT_RUN : made;
  return (
    <>
      <Button $main why={made || (!hasLight && "Add a light first.")} onPress={() => onRun()}>
        {isFirst ? "Run" : "Run again"}
      </Button>
      <Button why={none} onPress={() => (transport.playing ? dispatch(playingSet(false)) : transport.play())}>
        {transport.playing ? "Pause run" : "Play run"}
      </Button>
      <Button why={none} onPress={() => transport.step(1)}>
        Step
      </Button>
      <Button why={none} onPress={() => transport.toEvent(1)}>
        Next event
      </Button>
      <Button
        why={none}
        onPress={() => {
          dispatch(playingSet(false));
          // Of the run that is there when it is pressed: a new one may have come since this was drawn.
          dispatch(playheadMoved({ source: "run", t: mentor.lastRun.get()?.trace.endMs ?? 0 }));
        }}
      >
        To the end
      </Button>
      <Spacer />
      <Button why={none} onPress={() => mentor.keptRun.set(kept !== null && kept === shown ? null : shown)}>
        {kept !== null && kept === shown ? "Stop comparing" : "Compare"}
      </Button>
      <SaveTrace run={shown} />
      <KeepRun />
    </>
  );
});

/** Tabs that choose what is told of the run. */
export const RunTabs = memo(function RunTabs() {
  const tab = useAppSelector((state) => state.prove.tab);
  const dispatch = useAppDispatch();
  return <Choice label="Of the run" value={tab} options={TABS} onChange={(next) => dispatch(proveTabChosen(next))} />;
});
