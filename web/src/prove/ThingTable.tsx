import { capital } from "@perceptum/core/phrases";
import { fateWords, nameIn, reportThings, type ThingReport } from "@perceptum/core/world";
import { Fragment, useMemo } from "react";
import styled from "styled-components";
import { useGoTo } from "../hooks/useGoTo";
import type { LastRun } from "../model/judging/Mentor";
import { eyeName } from "../model/runs/runEye";
import { Chip } from "../targets/Chip";
import { QuietButton } from "../ui/Button";
import { Dim, Empty, Title } from "../ui/layout";
import { seconds } from "../ui/seconds";

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  font: 11.5px ${({ theme }) => theme.mono};
  & th { font: 11px ${({ theme }) => theme.sans}; color: ${({ theme }) => theme.ink2}; text-align: right; padding: 2px 4px; }
  & td { text-align: right; padding: 3px 4px; border-top: 1px solid ${({ theme }) => theme.ruleSoft}; white-space: nowrap; vertical-align: top; }
  & th:first-child, & td:first-child { text-align: left; }
  & td[colspan] { white-space: normal; font: 12px ${({ theme }) => theme.sans}; border-top: none; padding-top: 0; }
`;

/** The kinds of things that there are: “Plates and cards”. */
function titleOf(things: readonly ThingReport[]): string {
  const kinds = [...new Set(things.map(({ kind }) => PLURALS[kind]))];
  const words = [kinds.slice(0, -1).join(", "), kinds.at(-1)].filter((part) => part !== "").join(" and ");
  return capital(words);
}

const PLURALS: Record<ThingReport["kind"], string> = {
  patch: "patches",
  plate: "plates",
  piece: "pieces",
  sign: "signs",
  card: "cards",
  line: "lines",
};

/** Every patch, sign and card: at what speed it was passed, what fell on it, how late it arrived, what was made of it. */
export function ThingTable({ run }: { run: LastRun }) {
  const goTo = useGoTo("run");
  const things = useMemo(() => reportThings(run.trace), [run]);
  const name = useMemo(() => nameIn(run.project), [run]);
  const fates = useMemo(() => things.map((thing) => fateWords(run.trace, thing, name)), [run, things, name]);
  const byId = new Map(run.project.targets.map((t) => [t.id, t]));
  if (things.length === 0) return <Empty>There is nothing on this course to be passed.</Empty>;
  const answered = (thing: ThingReport): string => {
    const { eyes } = run.trace;
    const by =
      eyes.length < 2 ? "" : ` by ${thing.answeredBy.map((eye) => eyeName(run, eyes[eye].sensor)).join(" and ")}`;
    if (thing.answers > 0) return `${thing.answers === 1 ? "answered" : `answered ${thing.answers} times`}${by}`;
    return byId.get(thing.target)?.kind === "background" || thing.at === undefined ? "" : "not answered";
  };
  const mixed = new Set(things.map(({ kind }) => kind)).size > 1;
  const made = (thing: ThingReport, i: number): string =>
    [
      mixed && thing.kind !== "patch" ? thing.kind : "",
      answered(thing),
      ...thing.takenFor.map((taken) => `taken for ${name(taken.target)}`),
      fates[i] ?? "",
    ]
      .filter((part) => part !== "")
      .join(", ");
  return (
    <section aria-label="Things passed">
      <Title style={{ marginBottom: 4 }}>{titleOf(things)}</Title>
      <Table>
        <thead>
          <tr>
            <th scope="col">passed at</th>
            <th scope="col">cm/s</th>
            <th scope="col">readings</th>
            <th scope="col">arrives after</th>
          </tr>
        </thead>
        <tbody>
          {things.map((thing, i) => (
            <Fragment key={thing.piece}>
              <tr>
                <td>
                  <Chip target={byId.get(thing.target)} />{" "}
                  {thing.at === undefined ? (
                    <Dim>not passed</Dim>
                  ) : (
                    <QuietButton
                      aria-label={`Go to ${name(thing.target)}, ${thing.kind} ${thing.piece + 1}, at ${seconds(thing.at)}`}
                      onPress={() => goTo(thing.at ?? 0)}
                    >
                      {seconds(thing.at)}
                    </QuietButton>
                  )}
                </td>
                <td>{thing.at === undefined ? "" : (thing.speed / 10).toFixed(1)}</td>
                <td>{thing.at === undefined ? "" : thing.readings}</td>
                <td>{thing.delay === undefined ? "" : `${thing.delay.ms} ms, ${thing.delay.mm.toFixed(0)} mm`}</td>
              </tr>
              <tr>
                <td colSpan={4}>
                  <Dim>{made(thing, i)}</Dim>
                </td>
              </tr>
            </Fragment>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
