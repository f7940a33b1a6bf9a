import type { TargetId } from "@perceptum/core/names";
import { FEATURE_FACTS, type Feature, shownValue } from "@perceptum/core/readings";
import { overlaps } from "@perceptum/core/teaching";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { useTapesOf } from "../hooks/marked";
import { useProject, useSensor } from "../hooks/project";
import { Choice } from "../ui/Button";
import { Dim, Empty, Head, Spacer, Title } from "../ui/layout";
import { Select } from "../ui/Select";
import { SpreadPlot } from "./SpreadPlot";
import { type Group, groupsOf } from "./spreadGroups";

const Plots = styled.div<{ $columns: number }>`
  display: grid;
  grid-template-columns: repeat(${({ $columns }) => $columns}, minmax(0, 1fr));
  gap: 18px;
  min-height: 0;
`;

const Figures = styled.table`
  font-size: 12px;
  margin-top: 10px;
  width: 100%;
  & th { font-weight: 400; text-align: right; color: ${({ theme }) => theme.ink2}; padding: 1px 6px; }
  & th:first-child { text-align: left; white-space: nowrap; }
  & td { font-family: ${({ theme }) => theme.mono}; text-align: right; padding: 1px 6px; white-space: nowrap; }
`;

/** The sets of features that are compared side by side; what a sensor does not report falls away. */
const SETS: { id: string; text: string; features: readonly Feature[] }[] = [
  { id: "hsv", text: "hue, sat, val", features: ["hue", "sat", "val", "reflected"] },
  { id: "lab", text: "lightness, chroma", features: ["light", "chroma", "clear"] },
  { id: "rgb", text: "red, green, blue", features: ["r", "g", "b"] },
];

/** Every target and background in the features that the sensor reports: dots, the middle 90 %, the mean; and figures. */
export function SpreadPlots() {
  const { targets, lights } = useProject();
  const sensor = useSensor();
  const [set, setSet] = useState("hsv");
  const [apart, setApart] = useState<"together" | "apart">("together");
  const [figures, setFigures] = useState<"plots" | "figures">("plots");
  const tapes = useTapesOf(sensor.ruleSet);
  const groups = useMemo(() => groupsOf(tapes, targets, lights, apart === "apart"), [tapes, targets, lights, apart]);
  const given = (f: Feature) => tapes.every((tape) => tape.block.features.includes(f));
  const sets = SETS.filter((s) => s.features.some(given));
  const features = (sets.find((s) => s.id === set) ?? sets[0])?.features.filter(given) ?? [];
  const anything = groups.some((g) => g.count > 0);
  return (
    <>
      <Head>
        <Title>How the targets spread</Title>
        <Spacer />
        {anything && (
          <>
            <Choice
              label="Plots or figures"
              value={figures}
              options={[
                { id: "plots", text: "Plots" },
                { id: "figures", text: "Figures" },
              ]}
              onChange={setFigures}
            />
            <Choice
              label="Lights"
              value={apart}
              options={[
                { id: "together", text: "All lights" },
                { id: "apart", text: "Apart" },
              ]}
              onChange={setApart}
            />
            {sets.length > 1 && (
              <Select
                label="Features"
                hideLabel
                value={set}
                options={sets.map(({ id, text }) => ({ id, text }))}
                onChange={setSet}
              />
            )}
          </>
        )}
      </Head>
      {!anything || features.length === 0 ? (
        <Empty>
          {features.length === 0 && anything
            ? "A sensor with codes of its own has no features that spread."
            : "Nothing is marked yet, so there is nothing to compare. Record on the bench and hold a number key over each target and ground."}
        </Empty>
      ) : (
        <>
          <Overlapping groups={groups} apart={apart === "apart"} />
          {figures === "plots" ? (
            <Plots $columns={features.length}>
              {features.map((feature) => (
                <SpreadPlot key={feature} feature={feature} groups={groups} />
              ))}
            </Plots>
          ) : (
            <SpreadFigures features={features} groups={groups} />
          )}
        </>
      )}
    </>
  );
}

/** The pairs that no single band keeps apart, by name. */
function Overlapping({ groups, apart }: { groups: readonly Group[]; apart: boolean }) {
  const pairs = useMemo(() => {
    if (apart) return [];
    const spread = (target: TargetId, feature: Feature) => groups.find((g) => g.target.id === target)?.spread(feature);
    return overlaps(
      groups.map((g) => g.target),
      spread,
    );
  }, [groups, apart]);
  if (pairs.length === 0) return null;
  const name = (id: TargetId) => groups.find((g) => g.target.id === id)?.target.name ?? id;
  return (
    <Dim style={{ fontSize: 12, whiteSpace: "normal", paddingBottom: 4 }} role="note">
      Overlap in every feature:{" "}
      {pairs.map((p) => `${name(p.a)} and ${name(p.b)} (least in ${FEATURE_FACTS[p.feature].word})`).join("; ")}.
    </Dim>
  );
}

function SpreadFigures({ features, groups }: { features: readonly Feature[]; groups: readonly Group[] }) {
  const rows = useMemo(
    () => groups.filter((g) => g.count > 0).map((group) => ({ group, spreads: features.map((f) => group.spread(f)) })),
    [features, groups],
  );
  const text = (f: Feature, v: number) => shownValue(f, v).toFixed(1);
  return (
    <Figures aria-label="How the targets spread, in figures">
      <thead>
        <tr>
          <th />
          <th>readings</th>
          {features.map((f) => (
            <th key={f}>
              {FEATURE_FACTS[f].word} {FEATURE_FACTS[f].unit}: mean ± spread, 5–95 %
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ group, spreads }) => (
          <tr key={group.name}>
            <th scope="row">{group.name}</th>
            <td>{group.count}</td>
            {spreads.map((s, i) => (
              <td key={features[i]}>
                {s
                  ? `${text(features[i], s.mean)} ± ${text(features[i], s.deviation)}, ${text(features[i], s.low)}–${text(features[i], s.high)}`
                  : "grey"}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Figures>
  );
}
