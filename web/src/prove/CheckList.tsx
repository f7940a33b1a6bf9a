import { type Course, checkSentence } from "@perceptum/core/world";
import styled from "styled-components";
import type { LastRun } from "../state/judged";
import { useTargets } from "../state/project";
import { useAppDispatch } from "../state/store";
import { playheadMoved, playingSet } from "../state/view";
import { QuietButton } from "../ui/Button";
import { Dim, Empty, Head, Num, Spacer, Title } from "../ui/layout";
import { SIGN_OF_OUTCOME, Sign } from "../ui/Sign";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Face = styled(QuietButton)`
  width: 100%;
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 8px;
  padding: 5px 2px;
  border-bottom: 1px solid ${({ theme }) => theme.ruleSoft};
  border-radius: 0;
  font-size: 12px;
  text-align: left;
  color: ${({ theme }) => theme.ink};
  &[data-disabled] { color: ${({ theme }) => theme.ink}; }
`;

/** What the run has to show, decided as the run goes on; pressing one goes to the time at which it was decided. */
export function CheckList({
  course,
  run,
  t,
  stale,
}: {
  course: Course;
  run: LastRun | null;
  t: number;
  stale: boolean;
}) {
  const targets = useTargets();
  const dispatch = useAppDispatch();
  const name = (id: Parameters<Parameters<typeof checkSentence>[1]>[0]) => targets.get(id)?.name ?? id;
  const sameChecks = run?.trace.course.checks.length === course.checks.length;
  const results = course.checks.map((check, i) => {
    const verdict = sameChecks ? run?.verdicts[i] : undefined;
    const decided = verdict !== undefined && t >= (verdict.t ?? run?.trace.endMs ?? 0);
    return { sentence: checkSentence(check, name), verdict, decided };
  });
  const holding = results.filter((r) => r.decided && r.verdict?.outcome === "holds").length;
  const ended = run !== null && t >= run.trace.endMs;
  return (
    <section aria-label="Checks">
      <Head>
        <Title>Checks</Title>
        <Spacer />
        <Num role="status" aria-label="Checks that hold">
          {results.length === 0
            ? "none"
            : run === null
              ? "not run"
              : `${holding} of ${results.length}${ended ? "" : " so far"}`}
        </Num>
      </Head>
      {results.length === 0 && <Empty>This course states no checks.</Empty>}
      <List>
        {results.map(({ sentence, verdict, decided }) => {
          const outcome = verdict === undefined || !decided ? "open" : verdict.outcome;
          return (
            <li key={sentence}>
              <Face
                isDisabled={verdict?.t === undefined}
                aria-label={`${outcome}: ${sentence}${decided && verdict ? `, ${verdict.figure}` : ""}`}
                onPress={() => {
                  dispatch(playingSet(false));
                  dispatch(playheadMoved({ source: "run", t: verdict?.t ?? 0 }));
                }}
              >
                <Sign kind={outcome === "open" ? "open" : SIGN_OF_OUTCOME[outcome]} />
                <span>{sentence}</span>
                <Num>{decided ? verdict?.figure : "—"}</Num>
              </Face>
            </li>
          );
        })}
      </List>
      {run !== null && ended && (
        <Dim style={{ display: "block", marginTop: 5, fontSize: 12 }}>
          {
            { finished: "Finished", "left the course": "Left the course", "time is over": "Did not finish" }[
              run.trace.ending
            ]
          }{" "}
          after {(run.trace.endMs / 1000).toFixed(2)} s.
        </Dim>
      )}
      {stale && (
        <p style={{ marginTop: 5, fontSize: 12, fontWeight: 650 }}>
          The project was changed since this run. Run it again to see what it does now.
        </p>
      )}
    </section>
  );
}
