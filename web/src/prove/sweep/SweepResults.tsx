import {
  type Axis,
  type Conditions,
  type Course,
  checkSentence,
  courseKindOf,
  nameIn,
  type PassShare,
  type SweepSummary,
  underConditions,
} from "@perceptum/core/world";
import styled from "styled-components";
import { useSession } from "../../hooks/context";
import { useProject } from "../../hooks/project";
import { useAppDispatch } from "../../hooks/store";
import { useGoTo } from "../../hooks/useGoTo";
import { type Sweeping, Sweeps } from "../../model/runs/Sweeps";
import { proveViewChosen, runChosen } from "../../model/store/prove";
import { runPutBelow } from "../../model/store/view";
import { amount } from "../../ui/amount";
import { Button } from "../../ui/Button";
import { Wrong } from "../../ui/EntryField";
import { Dim, Head, Num, Spacer, Title } from "../../ui/layout";
import { lazily } from "../../ui/lazily";
import { ProgressBar } from "../../ui/ProgressBar";
import { Status } from "../../ui/Status";
import { seconds } from "../../ui/seconds";
import { axisValue } from "./axisValue";

const HeatMap = lazily(() => import("./HeatMap").then((m) => m.HeatMap));

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 12px;
  & li { display: grid; grid-template-columns: 96px minmax(0, 1fr) auto; gap: 8px; align-items: center; padding: 4px 0; border-top: 1px solid ${({ theme }) => theme.ruleSoft}; }
`;
const Big = styled(Status)`
  display: block;
  font: 600 24px ${({ theme }) => theme.mono};
`;

const AXIS_WORDS: Record<Axis, string> = {
  light: "light",
  speed: "speed",
  height: "height",
  noise: "noise",
  start: "start",
};

/** A value of each axis among others. */
const AXIS_TELLS: Record<Axis, (value: string | number, lightName: (id: string) => string) => string> = {
  light: (value, lightName) => lightName(String(value)),
  speed: (value) => `speed × ${value}`,
  height: (value) => `${Number(value) >= 0 ? "+" : "−"}${Math.abs(Number(value))} mm`,
  noise: (value) => `noise × ${value}`,
  start: String,
};

const MOST_WORST = 12;

export const percentOf = ({ share, interval: [low, high] }: PassShare) =>
  `${(share * 100).toFixed(0)} % (${(low * 100).toFixed(0)} to ${(high * 100).toFixed(0)} %)`;

/** How far a sweep is, and how it ended. */
function progressWords({ done, total, ended, took }: Sweeping): string {
  const made = done.toLocaleString("en");
  const all = total.toLocaleString("en");
  if (ended === "done") return `${all} runs made in ${seconds(took, 1)}`;
  if (ended === "cancelled") return `${made} of ${all} runs made, then cancelled: these stay`;
  return `${made} of ${all} runs made`;
}

/** What a sweep has shown so far: how many runs hold, what costs most, and where it fails. */
export function SweepResults(props: {
  course: Course;
  sweep: Sweeping;
  summary: SweepSummary;
  lightName: (id: string) => string;
}) {
  const { course, sweep, summary, lightName } = props;
  const project = useProject();
  const name = nameIn(project);
  const session = useSession();
  const { mentor } = session;
  const sweeps = session.service(Sweeps);
  const dispatch = useAppDispatch();
  const goTo = useGoTo("run");
  // The checks that were swept: those of the course may have been changed since.
  const checks = sweep.project.courses.find((c) => c.id === course.id)?.checks ?? course.checks;
  const { axes } = courseKindOf(course);
  const wordsOf = (conditions: Conditions) =>
    axes.map((axis) => AXIS_TELLS[axis](conditions[axis], lightName)).join(", ");

  /** Makes a run of the sweep again and shows it where its first check failed. */
  const open = async (conditions: Conditions, seed: number) => {
    const run = await mentor.run(
      underConditions(sweep.project, conditions),
      { course: course.id, start: conditions.start, light: conditions.light, seed },
      { base: sweep.project, under: wordsOf(conditions) },
    );
    const failures = run.verdicts.flatMap(({ outcome, t }) => (outcome === "holds" ? [] : [t ?? run.trace.endMs]));
    dispatch(runChosen({ course: course.id, start: conditions.start, light: conditions.light, seed }));
    dispatch(runPutBelow(true));
    goTo(Math.min(run.trace.endMs, ...failures));
    dispatch(proveViewChosen("run"));
  };
  return (
    <>
      <Head>
        <div>
          <Title>Every check holds in</Title>
          <Big label="Share that holds">{summary.all.runs === 0 ? "—" : percentOf(summary.all)}</Big>
        </div>
        {summary.all.runs > 0 && (
          <Num>
            {summary.all.passed.toLocaleString("en")} of {amount(summary.all.runs, "run")}
          </Num>
        )}
        <Spacer />
        <Num>{progressWords(sweep)}</Num>
      </Head>
      {sweep.ended === undefined && (
        <ProgressBar
          label="Sweep"
          share={sweep.done / sweep.total}
          began={sweep.began}
          onCancel={() => sweeps.cancel()}
        />
      )}
      {sweep.ended !== undefined && typeof sweep.ended === "object" && (
        <Wrong role="alert">The sweep broke off: {sweep.ended.wrong}. What was made stays.</Wrong>
      )}
      {sweep.project !== project && (
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
              <Num>{amount(Math.round(cost * 100), "point")} difference</Num>
            </li>
          ))}
        {checks.map((check, i) =>
          summary.checks[i] > 0 ? (
            <li key={JSON.stringify(check)}>
              <b>check</b>
              <span>{checkSentence(check, name)}</span>
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
                {share.passed} of {share.runs} hold
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
  );
}
