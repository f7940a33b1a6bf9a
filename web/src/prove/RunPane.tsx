import { type Course, courseKindOf, type Live, machineOf } from "@perceptum/core/world";
import { useCallback, useState } from "react";
import { FindingList } from "../findings/FindingList";
import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import { usePlayhead } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished } from "../hooks/usePublished";
import { playheadMoved, playingSet, runPutBelow } from "../model/store/view";
import { useTransport } from "../tape/useTransport";
import { Wrong } from "../ui/EntryField";
import { Dim, Head, Num, Pane, Spacer, StageGrid } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { mostBlinkHz, wantsStillness } from "../ui/motion";
import { seconds } from "../ui/seconds";
import { CheckList } from "./CheckList";
import { COURSE_VIEWS } from "./courseViews";
import { HoldCards } from "./HoldCards";
import { atRest, momentOf } from "./momentOf";
import { PartingLine } from "./PartingLine";
import { RobotFace } from "./RobotFace";
import { RunButtons, RunChoice, RunTabs, ShowNumbers } from "./RunControls";
import { RunLog } from "./RunLog";
import { RunNumbers } from "./RunNumbers";
import { ThingTable } from "./ThingTable";
import { useSounds } from "./useSounds";
import { WhyNot } from "./WhyNot";
import { WhyTable } from "./WhyTable";

const RunFrame = lazily(() => import("../camera/RunFrame").then((m) => m.RunFrame));

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
  const make = useCallback(
    async (live?: Live) => {
      setBusy(live === undefined);
      setWrong(undefined);
      try {
        if (live !== undefined && shown !== null) {
          const { project: as, choice, base, under } = shown;
          await mentor.run(as, { ...choice, live }, { base, under });
          return;
        }
        const chosen = { course: course.id, start: start.name, light: light.id, seed: prove.seed };
        const made = await mentor.run(project, chosen);
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
    },
    [dispatch, mentor, project, course.id, start.name, light?.id, prove.seed, shown],
  );
  return (
    <StageGrid $columns="minmax(0, 1fr) 330px">
      <Pane aria-label="Course">
        <Head style={{ flexWrap: "wrap", rowGap: 4 }}>
          <RunChoice course={course} start={start.name} light={light?.id ?? null} />
          <Spacer />
          <ShowNumbers none={shown === null} on={numbers} onChange={setNumbers} />
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
          <RunButtons
            shown={shown}
            isFirst={stale || run === null}
            isMade={busy}
            hasLight={light !== undefined}
            onRun={make}
          />
        </Head>
        {shown && <HoldCards run={shown} onLive={make} />}
        {shown && compared && <PartingLine first={compared} second={shown} />}
        {shown && shown.under !== "" && <Dim>This run was made under other conditions: {shown.under}.</Dim>}
        {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      </Pane>
      <Pane aria-label="Checks and reasons">
        <Head>
          <RunTabs />
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
