import type { ProjectDocument } from "@perceptum/core/project";
import { FEATURE_FACTS, type Features, figure, shownValue } from "@perceptum/core/readings";
import {
  type Change,
  type RuleSet,
  ruleSetOf,
  type SmallestChange,
  type Target,
  testAt,
  why,
} from "@perceptum/core/rules";
import { useMemo } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useEdit, useProject } from "../hooks/project";
import { useNow } from "../hooks/source";
import { usePublished } from "../hooks/usePublished";
import { Chip } from "../targets/Chip";
import { Button } from "../ui/Button";
import { Info } from "../ui/Info";
import { Dim, Empty, Num, Title } from "../ui/layout";
import { seconds } from "../ui/seconds";

const List = styled.ol`
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
`;
const Entry = styled.li<{ $won: boolean; $on: boolean }>`
  border-top: 1px solid ${({ theme }) => theme.ruleSoft};
  padding: 5px 0 5px 8px;
  box-shadow: ${({ theme, $won }) => ($won ? `inset 3px 0 0 ${theme.ink}` : "none")};
  opacity: ${({ $on }) => ($on ? 1 : 0.5)};
`;
const Row = styled.div`
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
`;
const Tests = styled.table`
  width: 100%;
  font: 11.5px ${({ theme }) => theme.mono};
  margin-top: 2px;
  & td { padding: 1px 4px 1px 0; white-space: nowrap; }
  & td:last-child { text-align: right; }
`;

const signed = (x: number) => `${x < 0 ? "−" : "+"}${Math.abs(x).toFixed(2)}`;

/** Why the reading that is looked at is taken for what it is: each test, what came next, and the smallest change. */
export function WhyPanel() {
  const now = useNow();
  const project = useProject();
  const probe = usePublished(useSession().probe);
  const known = useMemo(() => {
    if (now === null) return null;
    return { features: now.block.at(now.index), ruleSet: ruleSetOf(project, now.sensor), t: now.block.t[now.index] };
  }, [now, project]);
  if (known === null)
    return (
      <Empty>
        No reading is looked at. Move the playhead onto one, or hover a point in the field; of a camera, press a pixel
        of the frame.
      </Empty>
    );
  return (
    <Why
      {...known}
      project={project}
      changeable
      {...(probe !== null && { where: `pixel ${probe.column}, ${probe.row}` })}
    />
  );
}

/** The same for any reading, rule set and project; the change can be made only where the project is the open one. */
export function Why(props: {
  features: Features;
  ruleSet: RuleSet;
  t: number;
  project: ProjectDocument;
  changeable?: boolean;
  /** Where the reading is, in words; at its time unless said. */
  where?: string;
}) {
  const { features, ruleSet, t, project, changeable = false, where = `at ${seconds(t)}` } = props;
  const reasons = useMemo(() => why(ruleSet, features), [ruleSet, features]);
  const target = (id: string): Target | undefined => project.targets.find((x) => x.id === id);
  const name = (id: string) => target(id)?.name ?? "unknown";
  const next = reasons.rules[reasons.next];
  return (
    <section aria-label="Why">
      <Title>
        Why {name(reasons.label)}, {where}, margin {signed(reasons.margin)} <Info word="margin" />
      </Title>
      {reasons.change && (
        <SmallestChangeRow change={reasons.change} ruleSet={ruleSet} name={name} changeable={changeable} />
      )}
      {ruleSet.method === "bands" && (
        <Dim style={{ display: "block", fontSize: 12, whiteSpace: "normal" }}>
          {reasons.winner < 0
            ? "No rule matches."
            : next
              ? `Without its rule it would be ${name(next.rule.target)}.`
              : "Without its rule it would be unknown."}
        </Dim>
      )}
      <List aria-label="Rules and their tests">
        {reasons.rules.map(({ rule, clauses, margin, matches }, i) => (
          <Entry key={rule.id} $won={i === reasons.winner} $on={rule.on}>
            <Row>
              <Chip target={target(rule.target)} />
              <span>
                {name(rule.target)}{" "}
                <Dim>
                  {!rule.on ? "off" : i === reasons.winner ? "wins" : matches ? "matches too" : "does not match"}
                </Dim>
              </span>
              <Num>{signed(margin)}</Num>
            </Row>
            <Tests>
              <tbody>
                {clauses.map((clause, c) =>
                  clause.map(({ test, value, holds, margin: own }) => (
                    <tr
                      key={`${c} ${test.feature} ${test.from} ${test.to}`}
                      style={holds ? undefined : { fontWeight: 700 }}
                    >
                      <td>{holds ? "●" : "○"}</td>
                      <td>
                        {test.not ? "not " : ""}
                        {test.feature}
                      </td>
                      <td>{Number.isNaN(value) ? "none" : figureOf(test.feature, value)}</td>
                      <td>
                        in {test.from === undefined ? "…" : figure(test.feature, test.from)} to{" "}
                        {test.to === undefined ? "…" : figure(test.feature, test.to)}
                      </td>
                      <td>{signed(own)}</td>
                    </tr>
                  )),
                )}
              </tbody>
            </Tests>
          </Entry>
        ))}
        {reasons.references.slice(0, 8).map(({ reference, index, distance }, i) => (
          <Entry key={index} $won={i === 0 && reasons.label !== "unknown"} $on>
            <Row>
              <Chip target={target(reference.target)} />
              <span>
                {name(reference.target)} <Dim>{project.lights.find((l) => l.id === reference.light)?.name ?? ""}</Dim>
              </span>
              <Num>{distance.toFixed(3)} away</Num>
            </Row>
          </Entry>
        ))}
      </List>
      {ruleSet.method === "nearest" && reasons.references.length === 0 && (
        <Empty>There is no reference that this reading could be compared with.</Empty>
      )}
    </section>
  );
}

const figureOf = (feature: keyof typeof FEATURE_FACTS, value: number) => {
  const { unit } = FEATURE_FACTS[feature];
  return `${shownValue(feature, value).toFixed(1)}${unit === "%" ? " %" : unit}`;
};

function SmallestChangeRow(props: {
  change: SmallestChange;
  ruleSet: RuleSet;
  name: (id: string) => string;
  changeable: boolean;
}) {
  const { change, ruleSet, name, changeable } = props;
  const edit = useEdit();
  const { place, value, label } = change;
  const rule = place === "reject" ? undefined : ruleSet.rules.find((r) => r.id === place.rule);
  const test = place === "reject" ? undefined : testAt(ruleSet, place);
  if (place !== "reject" && (rule === undefined || test === undefined)) return null;
  const what =
    place === "reject"
      ? `the reject distance were ${value.toFixed(3)}`
      : test && rule
        ? `${name(rule.target)}’s ${place.end === "from" ? "lower" : "upper"} ${FEATURE_FACTS[test.feature].word} bound were ${figureOf(test.feature, value)}`
        : "";
  const made: Change =
    place === "reject" ? { ruleSet: ruleSet.id, reject: value } : { ruleSet: ruleSet.id, place, value };
  // The codes of a sensor are no bounds to be moved.
  const isRule = test === undefined || test.feature !== "code";
  return (
    <p style={{ fontSize: 12, padding: "4px 0" }}>
      It would be {name(label)} if {what}.{" "}
      {changeable && isRule && (
        <Button
          $small
          aria-label={`Make it so: ${name(label)}`}
          onPress={() => edit("makeItSo", { label: name(label), change: made })}
        >
          Make it so
        </Button>
      )}
    </p>
  );
}
