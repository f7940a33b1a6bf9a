import { FEATURE_FACTS, type Feature, REPORT_KINDS } from "@perceptum/core/readings";
import { hueSeam } from "@perceptum/core/teaching";
import { type ReactNode, useMemo, useState } from "react";
import styled from "styled-components";
import { useTapesOf } from "../../hooks/marked";
import { currentRuleSet, useRuleSetFacts, useSettledProject, useTargets } from "../../hooks/project";
import { useAppSelector } from "../../hooks/store";
import { Button } from "../../ui/Button";
import { Dim, Empty, Head, Spacer, Title } from "../../ui/layout";
import { Select } from "../../ui/Select";
import { Field } from "./Field";

const Plots = styled.div<{ $rows: number }>`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-rows: ${({ $rows }) => ($rows === 1 ? "minmax(0, 1fr)" : "minmax(0, 1.3fr) minmax(0, 1fr)")};
  margin: 0 -8px;
`;

/** The pairs that are shown at first, as far as the sensors give them. */
const FIRST: readonly (readonly [Feature, Feature])[] = [
  ["hue", "sat"],
  ["hue", "val"],
];

/** The colour field in two views, each with any pair of features. */
export function Fields({ below = null }: { below?: ReactNode }) {
  const { sensors } = useSettledProject();
  const ruleSet = useRuleSetFacts();
  const rule = useAppSelector((state) => state.view.rule);
  const target = useAppSelector((state) => state.view.target);
  const targets = useTargets();
  const ruled = useAppSelector((state) => currentRuleSet(state)?.rules.find((r) => r.id === rule)?.target);
  const own = sensors.filter((s) => s.ruleSet === ruleSet.id && !REPORT_KINDS.get(s.reports).coded);
  const given = (Object.keys(FEATURE_FACTS) as Feature[]).filter(
    (f) => own.length > 0 && own.every((s) => (REPORT_KINDS.get(s.reports).features as readonly Feature[]).includes(f)),
  );
  const tapes = useTapesOf(ruleSet.id);
  const seam = useMemo(() => hueSeam(tapes), [tapes]);
  const [pairs, setPairs] = useState(FIRST);
  const [drawing, setDrawing] = useState(false);
  if (given.length === 0) return <Empty>These rules are for no sensor that gives features to be laid out.</Empty>;
  const shown =
    given.length === 1
      ? [[given[0], null] as const]
      : pairs.map(([x, y]) => [given.includes(x) ? x : given[0], given.includes(y) ? y : given[1]] as const);
  const options = given.map((f) => ({ id: f, text: FEATURE_FACTS[f].word }));
  const name = targets.get(ruled ?? target ?? ("" as never))?.name;
  return (
    <>
      <Head style={{ marginBottom: 2 }}>
        <Title>Field</Title>
        <Dim>
          {drawing
            ? `drag a box for ${name ?? "the chosen target"}: ${ruled ? "it becomes another clause of its rule" : "it becomes a new rule"}`
            : "every marked reading, and each rule’s box; wheel zooms, dragging the ground moves it"}
        </Dim>
        <Spacer />
        {ruleSet.method === "bands" && (
          <Button
            $small
            aria-pressed={drawing}
            why={name === undefined && "Choose a target or a rule first; then the box is its rule."}
            onPress={() => setDrawing(!drawing)}
          >
            {drawing ? "Do not draw" : "Draw a box"}
          </Button>
        )}
      </Head>
      <Plots $rows={below === null ? shown.length : 2}>
        {(below === null ? shown : shown.slice(0, 1)).map(([x, y], i) => (
          <Field
            key={i}
            tapes={tapes}
            seam={seam}
            x={x}
            y={y}
            drawing={drawing}
            onDrawn={() => setDrawing(false)}
            choice={
              y !== null && (
                <>
                  <Select
                    label={`Across, view ${i + 1}`}
                    hideLabel
                    value={x}
                    options={options}
                    onChange={(f) => setPairs((all) => all.map((p, k) => (k === i ? [f, p[1]] : p)))}
                  />
                  <Select
                    label={`Upwards, view ${i + 1}`}
                    hideLabel
                    value={y}
                    options={options}
                    onChange={(f) => setPairs((all) => all.map((p, k) => (k === i ? [p[0], f] : p)))}
                  />
                </>
              )
            }
          />
        ))}
        {below}
      </Plots>
    </>
  );
}
