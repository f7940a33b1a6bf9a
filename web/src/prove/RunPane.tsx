import type { LightId } from "@perceptum/core/names";
import type { Course, Live } from "@perceptum/core/world";
import { useState } from "react";
import { FindingList } from "../findings/FindingList";
import { useSession } from "../session/context";
import { usePublished } from "../session/Published";
import { useProject } from "../session/project";
import { usePlayhead } from "../session/source";
import { type ProveTab, proveTabChosen, runChosen } from "../state/prove";
import { useAppDispatch, useAppSelector } from "../state/store";
import { playheadMoved, playingSet, runPutBelow } from "../state/view";
import { useTransport } from "../tape/useTransport";
import { Button, Choice } from "../ui/Button";
import { EntryField, Wrong } from "../ui/EntryField";
import { Dim, Head, Num, Pane, Spacer, StageGrid } from "../ui/layout";
import { Select } from "../ui/Select";
import { seconds } from "../ui/seconds";
import { CheckList } from "./CheckList";
import { CourseView } from "./CourseView";
import { HoldCards } from "./HoldCards";
import { KeepRun } from "./KeepRun";
import { momentOf } from "./momentOf";
import { PartingLine } from "./PartingLine";
import { RobotFace } from "./RobotFace";
import { RunLog } from "./RunLog";
import { RunNumbers } from "./RunNumbers";
import { SaveTrace } from "./SaveTrace";
import { ThingTable } from "./ThingTable";
import { useSounds } from "./useSounds";
import { WhyNot } from "./WhyNot";
import { WhyTable } from "./WhyTable";

const TABS: readonly { id: ProveTab; text: string }[] = [
  { id: "checks", text: "Checks" },
  { id: "why", text: "Why" },
  { id: "things", text: "Things" },
  { id: "log", text: "Log" },
];

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
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [numbers, setNumbers] = useState(false);
  const [sounds, setSounds] = useState(false);

  const start = course.starts.find((s) => s.name === prove.start) ?? course.starts[0];
  const light = project.lights.find((l) => l.id === prove.light) ?? project.lights[0];
  const stale = run !== null && run.base !== project;
  const shown = run !== null && run.trace.course.id === course.id ? run : null;
  const now = shown && momentOf(shown, t);
  useSounds(shown, t, sounds);
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
      await mentor.run(project, { course: course.id, start: start.name, light: light.id, seed: prove.seed });
      dispatch(runPutBelow(true));
      dispatch(playheadMoved({ source: "run", t: 0 }));
      dispatch(playingSet(true));
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
        <Head>
          <Select
            label="start"
            value={start.name}
            options={course.starts.map((s) => ({ id: s.name, text: s.name }))}
            onChange={(name) => dispatch(runChosen({ start: name }))}
          />
          <Select
            label="light"
            value={(light?.id ?? "") as string}
            options={project.lights.map((l) => ({ id: l.id as string, text: l.name }))}
            onChange={(id) => dispatch(runChosen({ light: id as LightId }))}
          />
          <Dim>seed</Dim>
          <EntryField
            mono
            label="Seed"
            text={String(prove.seed)}
            take={takeSeed}
            step={(d, n) => dispatch(runChosen({ seed: Math.max(0, prove.seed + d * n) }))}
          />
          <Spacer />
          <Button $small aria-pressed={numbers} isDisabled={now === null} onPress={() => setNumbers((n) => !n)}>
            Numbers
          </Button>
          <Num>{now ? `${seconds(t)} · ${(now.speed / 10).toFixed(1)} cm/s · ${now.modeName}` : "not run yet"}</Num>
        </Head>
        {numbers && now && shown && <RunNumbers run={shown} now={now} t={t} />}
        <CourseView course={course} start={start} run={shown} t={t} />
        {now && shown && <RobotFace now={now} lamps={shown.project.robot.lamps} sounds={sounds} onSounds={setSounds} />}
        <Head style={{ margin: "8px 0 0", flexWrap: "wrap", rowGap: 4 }}>
          <Button $main isDisabled={busy || light === undefined} onPress={() => void make()}>
            {stale || run === null ? "Run" : "Run again"}
          </Button>
          <Button
            isDisabled={shown === null}
            onPress={() => (transport.playing ? dispatch(playingSet(false)) : transport.play())}
          >
            {transport.playing ? "Pause run" : "Play run"}
          </Button>
          <Button isDisabled={shown === null} onPress={() => transport.step(1)}>
            Step
          </Button>
          <Button isDisabled={shown === null} onPress={() => transport.toEvent(1)}>
            Next event
          </Button>
          <Button
            isDisabled={shown === null}
            onPress={() => {
              dispatch(playingSet(false));
              transport.seek(run?.trace.endMs ?? 0);
            }}
          >
            To the end
          </Button>
          <Spacer />
          <Button
            isDisabled={shown === null}
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
      <Pane aria-label="Checks and reasons">
        <Head>
          <Choice
            label="Of the run"
            value={prove.tab}
            options={TABS}
            onChange={(tab) => dispatch(proveTabChosen(tab))}
          />
        </Head>
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
