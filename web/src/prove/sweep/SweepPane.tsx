import { type Course, courseKindOf, MANY_RUNS, type SweepGrid, summarise } from "@perceptum/core/world";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useSession } from "../../hooks/context";
import { useProject } from "../../hooks/project";
import { useAppDispatch, useAppSelector } from "../../hooks/store";
import { usePublished } from "../../hooks/usePublished";
import { Sweeps } from "../../model/runs/Sweeps";
import { gridChosen } from "../../model/store/prove";
import { amount } from "../../ui/amount";
import { Button } from "../../ui/Button";
import { Wrong } from "../../ui/EntryField";
import { Empty, Head, Num, Pane, StageGrid } from "../../ui/layout";
import { Fastest } from "./Fastest";
import { SweepResults } from "./SweepResults";
import { VariedFields } from "./VariedFields";

/** Many runs over a grid of conditions: how many hold, what costs most, where it fails, and how fast it may go. */
export function SweepPane({ course }: { course: Course }) {
  const project = useProject();
  const session = useSession();
  const sweeps = session.service(Sweeps);
  const sweep = usePublished(sweeps.sweeping);
  const { axes } = courseKindOf(course);
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => state.prove.grids[course.id]);
  const grid = useMemo((): SweepGrid => {
    if (chosen === undefined)
      return {
        course: course.id,
        start: [course.starts[0].name],
        light: project.lights.map((l) => l.id),
        speed: axes.includes("speed") ? [0.8, 1, 1.2] : [1],
        height: [-2, 0, 2],
        noise: [1],
        seeds: 10,
      };
    // Starts and lights that were chosen may have been taken out of the project since.
    return {
      ...chosen,
      start: chosen.start.filter((name) => course.starts.some((s) => s.name === name)),
      light: chosen.light.filter((id) => project.lights.some((l) => l.id === id)),
    };
  }, [chosen, course, project.lights, axes]);
  const setGrid = (change: (grid: SweepGrid) => SweepGrid) => dispatch(gridChosen(change(grid)));
  const [wrong, setWrong] = useState<string>();
  const runs =
    grid.start.length * grid.light.length * grid.speed.length * grid.height.length * grid.noise.length * grid.seeds;
  const [asked, setAsked] = useState(false);
  const mine = sweep !== null && sweep.grid.course === course.id ? sweep : null;
  const going = mine !== null && mine.ended === undefined;
  // Those that were swept: the course's may have been changed since.
  const checks = mine?.project.courses.find((c) => c.id === course.id)?.checks ?? course.checks;
  const summary = useMemo(() => (mine === null ? null : summarise(mine.cells, checks.length)), [mine, checks.length]);
  useEffect(() => {
    if (mine?.ended !== "done" || summary === null) return;
    const { passed, runs: made } = summary.all;
    session.mentor.lastSweep.set({ base: mine.project, course: mine.grid.course, passed, runs: made });
  }, [session, mine, summary]);
  const { lights } = project;
  const lightName = useCallback((id: string) => lights.find((l) => l.id === id)?.name ?? id, [lights]);

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
  return (
    <StageGrid $columns="300px minmax(0, 1fr)">
      <Pane aria-label="What is varied">
        <VariedFields course={course} grid={grid} onChange={setGrid} />
        <Head style={{ marginTop: 12 }}>
          <Button
            $main
            why={
              going ? "A sweep is under way." : runs === 0 && "Choose at least one value of everything that is varied."
            }
            onPress={() => void start()}
          >
            Sweep
          </Button>
          <Num>{amount(runs, "run")}</Num>
        </Head>
        {course.checks.length === 0 && (
          <Empty>This course has no checks yet, so every run would hold. Add some in One run, under Edit checks.</Empty>
        )}
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
        {axes.includes("speed") && <Fastest grid={grid} />}
      </Pane>
      <Pane $sheet aria-label="How it holds">
        {mine === null || summary === null ? (
          <Empty>
            A sweep makes many runs: in other light, at other speeds and heights, with other seeds. It shows how many
            hold, which condition costs most, and where it fails. Choose what to vary and press Sweep.
          </Empty>
        ) : (
          <SweepResults course={course} sweep={mine} summary={summary} lightName={lightName} />
        )}
      </Pane>
    </StageGrid>
  );
}
