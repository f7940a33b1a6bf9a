import type { LightId } from "@perceptum/core/names";
import {
  type Axis,
  type Conditions,
  type Course,
  checkSentence,
  MANY_RUNS,
  type PassShare,
  type SweepGrid,
  summarise,
  underConditions,
} from "@perceptum/core/world";
import { useCallback, useMemo, useState } from "react";
import styled from "styled-components";
import { useSession } from "../../session/context";
import { usePublished } from "../../session/Published";
import { useProject, useTargets } from "../../session/project";
import { proveViewChosen, runChosen } from "../../state/prove";
import { useAppDispatch } from "../../state/store";
import { playheadMoved, runPutBelow } from "../../state/view";
import { Button } from "../../ui/Button";
import { CheckGroup } from "../../ui/Check";
import { EntryField, Wrong } from "../../ui/EntryField";
import { Dim, Empty, Head, Num, Pane, Spacer, StageGrid, Title } from "../../ui/layout";
import { lazily } from "../../ui/lazily";
import { ProgressBar } from "../../ui/ProgressBar";
import { seconds } from "../../ui/seconds";
import { axisValue } from "./axisValue";
import { Fastest } from "./Fastest";

const HeatMap = lazily(() => import("./HeatMap").then((m) => m.HeatMap));

const Rows = styled.div`
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 6px 8px;
  align-items: center;
  & > :nth-child(odd) { color: ${({ theme }) => theme.ink2}; }
`;

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 12px;
  & li { display: grid; grid-template-columns: 96px minmax(0, 1fr) auto; gap: 8px; align-items: center; padding: 4px 0; border-top: 1px solid ${({ theme }) => theme.ruleSoft}; }
`;

const Big = styled.p`
  font: 600 24px ${({ theme }) => theme.mono};
`;

const AXIS_WORDS: Record<Axis, string> = {
  light: "light",
  speed: "speed",
  height: "height",
  noise: "noise",
  start: "start",
};

const MOST_WORST = 12;

export const percentOf = ({ share, interval: [low, high] }: PassShare) =>
  `${(share * 100).toFixed(0)} % (${(low * 100).toFixed(0)} to ${(high * 100).toFixed(0)} %)`;

/** Many runs over a grid of conditions: how many hold, what costs most, where it fails, and how fast it may go. */
export function SweepPane({ course }: { course: Course }) {
  const project = useProject();
  const targets = useTargets();
  const { mentor, sweeps } = useSession();
  const sweep = usePublished(sweeps.sweeping);
  const dispatch = useAppDispatch();
  const [grid, setGrid] = useState<SweepGrid>(() => ({
    course: course.id,
    start: [course.starts[0].name],
    light: project.lights.map((l) => l.id),
    speed: [0.8, 1, 1.2],
    height: [-2, 0, 2],
    noise: [1],
    seeds: 10,
  }));
  const [wrong, setWrong] = useState<string>();
  const runs =
    grid.start.length * grid.light.length * grid.speed.length * grid.height.length * grid.noise.length * grid.seeds;
  const [asked, setAsked] = useState(false);
  const mine = sweep !== null && sweep.grid.course === course.id ? sweep : null;
  const going = mine !== null && mine.ended === undefined;
  // The checks that were swept: those of the course may have been changed since.
  const checks = mine?.project.courses.find((c) => c.id === course.id)?.checks ?? course.checks;
  const summary = useMemo(() => (mine === null ? null : summarise(mine.cells, checks.length)), [mine, checks.length]);
  const { lights } = project;
  const lightName = useCallback((id: string) => lights.find((l) => l.id === id)?.name ?? id, [lights]);
  const wordsOf = (c: Conditions) =>
    `${lightName(c.light)}, speed × ${c.speed}, ${c.height >= 0 ? "+" : ""}${c.height} mm, noise × ${c.noise}, ${c.start}`;

  const start = async () => {
    if (runs > MANY_RUNS && !asked) {
      setAsked(true);
      return setWrong(`${runs.toLocaleString("en")} runs take long. Press Sweep again if you mean it.`);
    }
    setAsked(false);
    setWrong(undefined);
    try {
      await sweeps.start(project, grid);
    } catch (error) {
      setWrong(`The sweep cannot be made: ${(error as Error).message}.`);
    }
  };
  const open = async (conditions: Conditions, seed: number) => {
    const base = mine?.project ?? project;
    await mentor.run(
      underConditions(base, conditions),
      { course: course.id, start: conditions.start, light: conditions.light, seed },
      { base, under: wordsOf(conditions) },
    );
    dispatch(runChosen({ course: course.id, start: conditions.start, light: conditions.light, seed }));
    dispatch(runPutBelow(true));
    dispatch(playheadMoved({ source: "run", t: 0 }));
    dispatch(proveViewChosen("run"));
  };
  const numbers = (axis: "speed" | "height" | "noise", low: number, high: number) => (text: string) => {
    const values = text
      .split(/[,;\s]+/)
      .filter((x) => x !== "")
      .map(Number);
    if (values.length === 0 || values.some((v) => !(v >= low && v <= high)))
      return `Numbers from ${low} to ${high}, with commas between.`;
    setGrid((g) => ({ ...g, [axis]: [...new Set(values)] }));
    return undefined;
  };
  const takeSeeds = (text: string) => {
    const seeds = Number(text);
    if (!Number.isInteger(seeds) || seeds < 1 || seeds > 1_000_000) return "A whole number from 1 on.";
    setGrid((g) => ({ ...g, seeds }));
    return undefined;
  };
  return (
    <StageGrid $columns="300px minmax(0, 1fr)">
      <Pane aria-label="What is varied">
        <Title style={{ marginBottom: 8 }}>Vary</Title>
        <Rows>
          <span>light</span>
          <CheckGroup
            label="Lights"
            items={project.lights.map((l) => ({ id: l.id, words: l.name }))}
            chosen={grid.light as LightId[]}
            onChange={(light) => setGrid((g) => ({ ...g, light }))}
          />
          <span>start</span>
          <CheckGroup
            label="Starts"
            items={course.starts.map((s) => ({ id: s.name, words: s.name }))}
            chosen={grid.start}
            onChange={(start) => setGrid((g) => ({ ...g, start }))}
          />
          <span>speed ×</span>
          <div>
            <EntryField
              width={130}
              label="Factors on the speed"
              text={grid.speed.join(", ")}
              take={numbers("speed", 0.01, 100)}
            />
          </div>
          <span>height +</span>
          <div>
            <EntryField
              width={130}
              label="Heights added, in mm"
              text={grid.height.join(", ")}
              take={numbers("height", -500, 500)}
            />{" "}
            mm
          </div>
          <span>noise ×</span>
          <div>
            <EntryField
              width={130}
              label="Factors on the noise"
              text={grid.noise.join(", ")}
              take={numbers("noise", 0, 1000)}
            />
          </div>
          <span>seeds</span>
          <div>
            <EntryField mono label="Number of seeds" text={String(grid.seeds)} take={takeSeeds} />
          </div>
        </Rows>
        <Head style={{ marginTop: 12 }}>
          <Button $main isDisabled={going || runs === 0} onPress={() => void start()}>
            Sweep
          </Button>
          <Num>{runs.toLocaleString("en")} runs</Num>
        </Head>
        {course.checks.length === 0 && (
          <Empty>This course has no checks yet, so every run would hold. Add some in Run, under Edit checks.</Empty>
        )}
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
        <Fastest grid={grid} />
      </Pane>
      <Pane $sheet aria-label="How it holds">
        {mine === null || summary === null ? (
          <Empty>
            A sweep makes many runs: in other light, at other speeds and heights, with other seeds. It shows how many
            hold, which condition costs most, and where it fails. Choose what to vary and press Sweep.
          </Empty>
        ) : (
          <>
            <Head>
              <div>
                <Title>Every check holds in</Title>
                <Big role="status" aria-label="Share that holds">
                  {summary.all.runs === 0 ? "—" : percentOf(summary.all)}
                </Big>
              </div>
              <Spacer />
              <Num>
                {mine.done.toLocaleString("en")} of {mine.total.toLocaleString("en")} runs
                {mine.ended === "done" && `, ${seconds(mine.took, 1)}`}
                {mine.ended === "cancelled" && ", cancelled: these stay"}
              </Num>
            </Head>
            {going && (
              <ProgressBar
                label="Sweep"
                share={mine.done / mine.total}
                began={mine.began}
                onCancel={() => sweeps.cancel()}
              />
            )}
            {mine.ended !== undefined && typeof mine.ended === "object" && (
              <Wrong role="alert">The sweep broke off: {mine.ended.wrong}. What was made stays.</Wrong>
            )}
            {mine.project !== project && (
              <p style={{ fontSize: 12, fontWeight: 650 }}>The project was changed since this sweep.</p>
            )}
            <HeatMap summary={summary} lightName={lightName} />
            <Title style={{ margin: "10px 0 4px" }}>What costs most</Title>
            <List aria-label="What costs most">
              {summary.axes
                .filter((a) => a.values.length > 1)
                .map(({ axis, values, cost }) => (
                  <li key={axis}>
                    <b>{AXIS_WORDS[axis]}</b>
                    <span>
                      {values
                        .map((v) => `${axisValue(axis, v.value, lightName)}: ${(v.share * 100).toFixed(0)} %`)
                        .join(" · ")}
                    </span>
                    <Num>{(cost * 100).toFixed(0)} points difference</Num>
                  </li>
                ))}
              {checks.map((check, i) =>
                summary.checks[i] > 0 ? (
                  <li key={JSON.stringify(check)}>
                    <b>check</b>
                    <span>{checkSentence(check, (id) => targets.get(id)?.name ?? id)}</span>
                    <Num>fails in {summary.checks[i]}</Num>
                  </li>
                ) : null,
              )}
            </List>
            <Title style={{ margin: "10px 0 4px" }}>The worst first</Title>
            <List aria-label="The worst first">
              {summary.cells
                .filter((c) => c.failing.length > 0)
                .slice(0, MOST_WORST)
                .map(({ cell, failing, ...share }) => (
                  <li key={wordsOf(cell.conditions)}>
                    <Num>
                      {share.passed} of {share.runs}
                    </Num>
                    <span>{wordsOf(cell.conditions)}</span>
                    <Button
                      $small
                      aria-label={`Open the failing run of ${wordsOf(cell.conditions)}`}
                      onPress={() => void open(cell.conditions, failing[0])}
                    >
                      Open seed {failing[0]}
                    </Button>
                  </li>
                ))}
              {summary.all.runs > 0 && summary.all.passed === summary.all.runs && <Dim>No run failed so far.</Dim>}
            </List>
          </>
        )}
      </Pane>
    </StageGrid>
  );
}
