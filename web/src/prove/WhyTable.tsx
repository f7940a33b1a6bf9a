import { blockOf, exactShown, FEATURE_FACTS, shownValue } from "@perceptum/core/readings";
import { type SmallestChange, why } from "@perceptum/core/rules";
import { useMemo } from "react";
import styled from "styled-components";
import type { LastRun } from "../state/judged";
import { Chip } from "../targets/Chip";
import { Dim, Title } from "../ui/layout";

const Table = styled.table`
  width: 100%;
  font: 11.5px ${({ theme }) => theme.mono};
  & th { font-weight: 400; color: ${({ theme }) => theme.ink2}; text-align: left; padding: 1px 0; }
  & td { padding: 1px 0; white-space: nowrap; }
  & tr[data-won="true"] td { font-weight: 700; }
`;

/** Why the reading at time t was taken for what it was: each rule's tests, and the smallest change that would alter it. */
export function WhyTable({ run, t }: { run: LastRun; t: number }) {
  const { trace, project } = run;
  const [eye] = trace.eyes;
  const sensor = project.sensors.find((s) => s.id === eye.sensor) ?? project.sensors[0];
  const ruleSet = project.ruleSets.find((set) => set.id === sensor.ruleSet) ?? project.ruleSets[0];
  const block = blockOf(eye.readings, sensor);
  const index = block.indexAt(t);
  const reasons = useMemo(() => (index < 0 ? null : why(ruleSet, block.at(index))), [ruleSet, block, index]);
  if (reasons === null) return null;
  const target = (id: string) => project.targets.find((x) => x.id === id);
  const columns = (["hue", "sat", "val", "light", "chroma", "r", "g", "b"] as const).filter((f) =>
    reasons.rules.some((r) => r.clauses.some((c) => c.some((x) => x.test.feature === f))),
  );
  return (
    <section aria-label="Why">
      <Title style={{ margin: "14px 0 4px" }}>
        Why {target(reasons.label)?.name ?? "unknown"}, at {(block.t[index] / 1000).toFixed(2)} s
      </Title>
      <Table>
        <thead>
          <tr>
            <th>rule</th>
            {columns.map((f) => (
              <th key={f}>{f}</th>
            ))}
            <th style={{ textAlign: "right" }}>margin</th>
          </tr>
        </thead>
        <tbody>
          {reasons.rules.map(({ rule, clauses, margin }, i) => (
            <tr key={rule.id} data-won={i === reasons.winner} style={rule.on ? undefined : { opacity: 0.45 }}>
              <td>
                <Chip target={target(rule.target)} />
              </td>
              {columns.map((f) => {
                const tests = clauses.flat().filter((x) => x.test.feature === f);
                return (
                  <td key={f}>
                    {tests.map((x) => (
                      <span key={`${x.test.from} ${x.test.to}`} title={x.holds ? "holds" : "does not hold"}>
                        {Number.isNaN(x.value) ? "–" : Math.round(shownValue(f, x.value))} {x.holds ? "●" : "○"}
                      </span>
                    ))}
                  </td>
                );
              })}
              <td style={{ textAlign: "right" }}>
                {margin < 0 ? "−" : "+"}
                {Math.abs(margin).toFixed(2)}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {reasons.change && (
        <Dim style={{ display: "block", fontSize: 11.5, marginTop: 4 }}>
          <ChangeWords change={reasons.change} rules={reasons.rules} name={(id) => target(id)?.name ?? "unknown"} />
        </Dim>
      )}
    </section>
  );
}

function ChangeWords({
  change,
  rules,
  name,
}: {
  change: SmallestChange;
  rules: ReturnType<typeof why>["rules"];
  name: (id: string) => string;
}) {
  const { place, value, label } = change;
  if (place === "reject")
    return (
      <>
        It would be {name(label)} if the reject distance were {value.toFixed(3)}.
      </>
    );
  const reason = rules.find((r) => r.rule.id === place.rule);
  const test = reason?.clauses[place.clause][place.test].test;
  if (reason === undefined || test === undefined) return null;
  const { unit } = FEATURE_FACTS[test.feature];
  const figure = Number(exactShown(test.feature, value)).toFixed(1);
  return (
    <>
      It would be {name(label)} if {name(reason.rule.target)}’s {place.end === "from" ? "lower" : "upper"}{" "}
      {FEATURE_FACTS[test.feature].word} bound were {figure}
      {unit === "%" ? " %" : unit}.
    </>
  );
}
