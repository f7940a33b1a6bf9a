import type { LightId } from "@perceptum/core/project";
import { useState } from "react";
import { lastRun, runProject } from "../state/judged";
import { usePublished } from "../state/Published";
import { useProject } from "../state/project";
import { usePlayhead } from "../state/source";
import { useAppDispatch, useAppSelector } from "../state/store";
import { playheadMoved, playingSet, runChosen, runPutBelow } from "../state/view";
import { useTransport } from "../tape/useTransport";
import { Button } from "../ui/Button";
import { EntryField, Wrong } from "../ui/EntryField";
import { Dim, Empty, Head, Num, Pane, Spacer, StageGrid, Title } from "../ui/layout";
import { Select } from "../ui/Select";
import { CheckList } from "./CheckList";
import { CourseView } from "./CourseView";
import { KeepRun } from "./KeepRun";
import { momentOf } from "./momentOf";
import { RunLog } from "./RunLog";
import { WhyTable } from "./WhyTable";

/** Does it work? One run on a course, its checks, and why the robot did what it did. */
export default function ProveStage() {
  const project = useProject();
  const view = useAppSelector((state) => state.view);
  const run = usePublished(lastRun);
  const dispatch = useAppDispatch();
  const transport = useTransport();
  const t = usePlayhead("run");
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);

  const course = project.courses.find((c) => c.id === view.course) ?? project.courses[0];
  if (course === undefined)
    return <Empty style={{ padding: 20 }}>This project has no course yet. The demo has one.</Empty>;
  const start = course.starts.find((s) => s.name === view.start) ?? course.starts[0];
  const light = project.lights.find((l) => l.id === view.light) ?? project.lights[0];
  const stale = run !== null && run.project !== project;
  const shown = run !== null && run.trace.course.id === course.id ? run : null;
  const now = shown && momentOf(shown, t);

  const makeRun = async () => {
    setBusy(true);
    setWrong(undefined);
    try {
      await runProject(project, { course: course.id, start: start.name, light: light.id, seed: view.seed });
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
    <StageGrid $columns="minmax(0, 1fr) 320px">
      <Pane aria-label="Course">
        <Head>
          <Title>Course</Title>
          {project.courses.length > 1 ? (
            <Select
              label="Course"
              hideLabel
              value={course.id}
              options={project.courses.map((c) => ({ id: c.id, text: c.name }))}
              onChange={(id) => dispatch(runChosen({ course: id, start: null }))}
            />
          ) : (
            <b>{course.name}</b>
          )}
          <Spacer />
          <Select
            label="start"
            value={start.name}
            options={course.starts.map((s) => ({ id: s.name, text: s.name }))}
            onChange={(name) => dispatch(runChosen({ start: name }))}
          />
          <Select
            label="light"
            value={light.id as string}
            options={project.lights.map((l) => ({ id: l.id as string, text: l.name }))}
            onChange={(id) => dispatch(runChosen({ light: id as LightId }))}
          />
          <Dim>seed</Dim>
          <EntryField
            mono
            label="Seed"
            text={String(view.seed)}
            take={takeSeed}
            step={(d, n) => dispatch(runChosen({ seed: Math.max(0, view.seed + d * n) }))}
          />
        </Head>
        <CourseView course={course} start={start} run={shown} t={t} />
        <Head style={{ margin: "8px 0 0", flexWrap: "wrap" }}>
          <Button $main isDisabled={busy} onPress={() => void makeRun()}>
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
          <Button
            isDisabled={shown === null}
            onPress={() => {
              dispatch(playingSet(false));
              transport.seek(run?.trace.endMs ?? 0);
            }}
          >
            To the end
          </Button>
          <KeepRun />
          <Spacer />
          <Num>
            {now ? `${(t / 1000).toFixed(2)} s · ${(now.speed / 10).toFixed(1)} cm/s · ${now.modeName}` : "not run yet"}
          </Num>
        </Head>
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      </Pane>
      <Pane aria-label="Checks and reasons">
        <CheckList course={course} run={shown} t={t} stale={stale} />
        {shown && <WhyTable run={shown} t={t} />}
        {shown && <RunLog run={shown} t={t} />}
      </Pane>
    </StageGrid>
  );
}
