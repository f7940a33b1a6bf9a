import type { LightId } from "@perceptum/core/names";
import { type Course, courseKindOf, type Live, machineOf } from "@perceptum/core/world";
import { useState } from "react";
import { FindingList } from "../findings/FindingList";
import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import { usePlayhead } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished } from "../hooks/usePublished";
import { type ProveTab, proveTabChosen, runChosen } from "../model/store/prove";
import { playheadMoved, playingSet, runPutBelow } from "../model/store/view";
import { useTransport } from "../tape/useTransport";
import { Button, Choice } from "../ui/Button";
import { EntryField, Wrong } from "../ui/EntryField";
import { Dim, Head, Num, Pane, Spacer, StageGrid } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { mostBlinkHz, wantsStillness } from "../ui/motion";
import { Select } from "../ui/Select";
import { seconds } from "../ui/seconds";
import { CheckList } from "./CheckList";
import { COURSE_VIEWS } from "./courseViews";
import { HoldCards } from "./HoldCards";
import { KeepRun } from "./KeepRun";
import { atRest, momentOf } from "./momentOf";
import { PartingLine } from "./PartingLine";
import { RobotFace } from "./RobotFace";
import { RunLog } from "./RunLog";
import { RunNumbers } from "./RunNumbers";
import { SaveTrace } from "./SaveTrace";
import { ThingTable } from "./ThingTable";
import { useSounds } from "./useSounds";
import { WhyNot } from "./WhyNot";
import { WhyTable } from "./WhyTable";

const RunFrame = lazily(() => import("../camera/RunFrame").then((m) => m.RunFrame));

const LightsSheet = lazily(() => import("../lights/LightsSheet").then((m) => m.LightsSheet));

const TABS: readonly { id: ProveTab; text: string }[] = [
  { id: "checks", text: "Checks" },
  { id: "why", text: "Why" },
  { id: "things", text: "Things" },
  { id: "log", text: "Log" },
];

/** Why what needs a run cannot be pressed. */
const NOT_RUN = "Make a run first.";

/** One run on a course: made, played, stepped through, held up cards to, compared, and asked why. */
export function RunPane({ course }: { course: Course }) {
  const project = useProject();
  const { mentor } = useSession();
  const prove = useAppSelector((state) => state.prove);
  const run = usePublished(mentor.lastRun);
  const kept = usePublished(mentor.keptRun);
  const dispatch = useAppDispatch();
  const transport = useTransport();
  const t = usePlayhead("run");
  const speed = useAppSelector((state) => state.view.speed);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [numbers, setNumbers] = useState(false);
  const [sounds, setSounds] = useState(false);
  const [lighting, setLighting] = useState(false);

  const start = course.starts.find((s) => s.name === prove.start) ?? course.starts[0];
  const light = project.lights.find((l) => l.id === prove.light) ?? project.lights[0];
  const stale = run !== null && run.base !== project;
  const shown = run !== null && run.trace.course.id === course.id ? run : null;
  const now = shown && momentOf(shown, t, mostBlinkHz(transport.playing ? speed : 0));
  useSounds(shown, t, sounds);
  const { Run, largeFace } = COURSE_VIEWS[course.kind];
  const { robot } = shown?.project ?? project;
  const resting = atRest(robot, courseKindOf(course).begins(course, start));
  const drives = machineOf(robot).topSpeed > 0;
  const compared = shown && kept !== null && kept !== shown && kept.trace.course.id === course.id ? kept : null;

  /** A new run as it is chosen; or the run that is shown once more, with what is held live. */
  const make = async (live?: Live) => {
    setBusy(live === undefined);
    setWrong(undefined);
    try {
      if (live !== undefined && shown !== null) {
        const { project: as, choice, base, under } = shown;
        await mentor.run(as, { ...choice, live }, { base, under });
        return;
      }
      const made = await mentor.run(project, {
        course: course.id,
        start: start.name,
        light: light.id,
        seed: prove.seed,
      });
      dispatch(runPutBelow(true));
      // Who wants less motion gets the end of it, and may play it.
      const still = wantsStillness();
      dispatch(playheadMoved({ source: "run", t: still ? made.trace.endMs : 0 }));
      dispatch(playingSet(!still));
    } catch (error) {
      setWrong(`The run could not be made: ${(error as Error).message}. The last one stays.`);
    } finally {
      setBusy(false);
    }
  };
  const takeSeed = (text: string) => {
    const seed = Number(text);
    if (text.trim() === "" || !Number.isInteger(seed) || seed < 0 || seed > 2_147_483_647)
      return "A seed is a whole number from 0 to 2147483647.";
    dispatch(runChosen({ seed }));
    return undefined;
  };
  return (
    <StageGrid $columns="minmax(0, 1fr) 330px">
      <Pane aria-label="Course">
        <Head style={{ flexWrap: "wrap", rowGap: 4 }}>
          {courseKindOf(course).parts.includes("starts") && (
            <Select
              label="start"
              value={start.name}
              options={course.starts.map((s) => ({ id: s.name, text: s.name }))}
              onChange={(name) => dispatch(runChosen({ start: name }))}
            />
          )}
          <Select
            label="light"
            value={(light?.id ?? "") as string}
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
            text={String(prove.seed)}
            take={takeSeed}
            step={(d, n) => dispatch(runChosen({ seed: Math.max(0, prove.seed + d * n) }))}
          />
          <Spacer />
          <Button $small aria-pressed={numbers} why={now === null && NOT_RUN} onPress={() => setNumbers((n) => !n)}>
            Numbers
          </Button>
          <Num>
            {now
              ? [seconds(t), ...(drives ? [`${(now.speed / 10).toFixed(1)} cm/s`] : []), now.modeName].join(" · ")
              : "not run yet"}
          </Num>
        </Head>
        {numbers && now && shown && <RunNumbers run={shown} now={now} t={t} />}
        <Run
          course={course}
          start={start}
          run={shown}
          t={t}
          now={now ?? resting}
          face={
            <RobotFace
              now={now ?? resting}
              lamps={robot.lamps}
              buttons={robot.buttons}
              large={largeFace}
              sounds={sounds}
              onSounds={setSounds}
            />
          }
        />
        <Head style={{ margin: "8px 0 0", flexWrap: "wrap", rowGap: 4 }}>
          <Button
            $main
            why={busy ? "The run is being made." : light === undefined && "Add a light first."}
            onPress={() => void make()}
          >
            {stale || run === null ? "Run" : "Run again"}
          </Button>
          <Button
            why={shown === null && NOT_RUN}
            onPress={() => (transport.playing ? dispatch(playingSet(false)) : transport.play())}
          >
            {transport.playing ? "Pause run" : "Play run"}
          </Button>
          <Button why={shown === null && NOT_RUN} onPress={() => transport.step(1)}>
            Step
          </Button>
          <Button why={shown === null && NOT_RUN} onPress={() => transport.toEvent(1)}>
            Next event
          </Button>
          <Button
            why={shown === null && NOT_RUN}
            onPress={() => {
              dispatch(playingSet(false));
              // Of the run that is there when it is pressed: a new one may have come since this was drawn.
              dispatch(playheadMoved({ source: "run", t: mentor.lastRun.get()?.trace.endMs ?? 0 }));
            }}
          >
            To the end
          </Button>
          <Spacer />
          <Button
            why={shown === null && NOT_RUN}
            onPress={() => mentor.keptRun.set(kept !== null && kept === shown ? null : shown)}
          >
            {kept !== null && kept === shown ? "Stop comparing" : "Compare"}
          </Button>
          <SaveTrace run={shown} />
          <KeepRun />
        </Head>
        {shown && <HoldCards run={shown} t={t} onLive={(live) => void make(live)} />}
        {shown && compared && <PartingLine first={compared} second={shown} />}
        {shown && shown.under !== "" && <Dim>This run was made under other conditions: {shown.under}.</Dim>}
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      </Pane>
      {lighting && <LightsSheet onClose={() => setLighting(false)} />}
      <Pane aria-label="Checks and reasons">
        <Head>
          <Choice
            label="Of the run"
            value={prove.tab}
            options={TABS}
            onChange={(tab) => dispatch(proveTabChosen(tab))}
          />
        </Head>
        {shown?.trace.eyes.some(({ frames }) => frames !== undefined) && prove.tab === "checks" && (
          <RunFrame run={shown} t={t} />
        )}
        {prove.tab === "checks" && (
          <>
            <CheckList course={course} run={shown} t={t} stale={stale} />
            <FindingList stage="prove" />
          </>
        )}
        {prove.tab === "why" && shown && (
          <>
            <WhyNot run={shown} t={t} />
            <WhyTable run={shown} t={t} />
          </>
        )}
        {prove.tab === "things" && shown && <ThingTable run={shown} />}
        {prove.tab === "log" && shown && <RunLog run={shown} t={t} />}
        {prove.tab !== "checks" && !shown && <Dim>Make a run first; then this tells about it.</Dim>}
      </Pane>
    </StageGrid>
  );
}
