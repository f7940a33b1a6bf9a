import type { TargetId } from "@perceptum/core/names";
import { FEATURE_FACTS, type Feature, shownValue } from "@perceptum/core/readings";
import { overlaps } from "@perceptum/core/teaching";
import { useCallback, useMemo, useState } from "react";
import styled from "styled-components";
import { useTapesOf } from "../session/marked";
import { useProject, useSensor } from "../session/project";
import { useAppDispatch, useAppSelector } from "../state/store";
import { hovered, playheadMoved, tapeChosen, watchingChosen } from "../state/view";
import { Choice } from "../ui/Button";
import { Canvas } from "../ui/Canvas";
import { Dim, Empty, Head, Spacer, Title } from "../ui/layout";
import { Select } from "../ui/Select";
import { usePalette } from "../ui/themeChoice";
import { useSize } from "../ui/useSize";
import { type Group, groupsOf } from "./spreadGroups";

const Plots = styled.div<{ $columns: number }>`
  display: grid;
  grid-template-columns: repeat(${({ $columns }) => $columns}, minmax(0, 1fr));
  gap: 18px;
  min-height: 0;
`;
const Place = styled.div`
  position: relative;
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
/** At most this many dots a row; more would only make ink. */
const MOST_DOTS = 160;
const TOP = 20;

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

function SpreadPlot({ feature, groups }: { feature: Feature; groups: readonly Group[] }) {
  const palette = usePalette();
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => state.view.target);
  const hover = useAppSelector((state) => state.view.hover);
  const { ref, width } = useSize<HTMLDivElement>();
  const row = groups.length > 10 ? 22 : 28;
  const left = groups.some((g) => g.code.length > 2) ? 38 : 28;
  const right = width - 6;
  const { max } = FEATURE_FACTS[feature];
  const height = TOP + groups.length * row + 16;
  const x = useCallback(
    (v: number) => left + (Math.max(0, Math.min(max, v)) / max) * (right - left),
    [left, right, max],
  );

  const rows = useMemo(
    () =>
      groups.map((group) => {
        const every = Math.max(1, Math.floor(group.picked.length / MOST_DOTS));
        const dots = group.picked.filter((_, k) => k % every === 0);
        return { group, spread: group.spread(feature), dots };
      }),
    [groups, feature],
  );
  const dotAt = useCallback(
    (i: number, k: number) => {
      const { tape, index } = rows[i].dots[k];
      // A fixed scatter, so that the dots do not dance when the picture is drawn again.
      return {
        x: x(tape.block.column(feature)[index]),
        y: TOP + i * row + row / 2 + (((k * 7919) % 97) / 97 - 0.5) * 9,
      };
    },
    [rows, feature, row, x],
  );

  const draw = useCallback(
    (context: CanvasRenderingContext2D) => {
      const mono = '9.5px "Atkinson Hyperlegible Mono Variable", monospace';
      context.font = '650 11px "Atkinson Hyperlegible Next Variable", sans-serif';
      context.fillStyle = palette.ink2;
      context.fillText(`${FEATURE_FACTS[feature].word} ${FEATURE_FACTS[feature].unit}`, left, 11);
      rows.forEach(({ group: { target, code }, spread, dots }, i) => {
        const y = TOP + i * row + row / 2;
        if (target.id === chosen) {
          context.fillStyle = palette.panel;
          context.fillRect(0, y - row / 2, width, row);
        }
        context.fillStyle = palette.ink2;
        context.font = mono;
        context.fillText(code, 4, y + 3);
        context.fillStyle = palette.ruleSoft;
        context.fillRect(left, y + row / 2 - 1, right - left, 1);
        if (spread === undefined) {
          context.fillStyle = palette.ink3;
          context.fillText("not marked, or grey", left + 4, y + 3);
          return;
        }
        context.fillStyle = target.paint;
        context.strokeStyle = "rgb(0 0 0 / 40%)";
        context.lineWidth = 0.6;
        dots.forEach((_, k) => {
          const at = dotAt(i, k);
          if (Number.isNaN(at.x)) return;
          context.beginPath();
          if (target.kind === "background") context.rect(at.x - 1.6, at.y - 1.6, 3.2, 3.2);
          else context.arc(at.x, at.y, 1.9, 0, 7);
          context.fill();
          context.stroke();
        });
        drawRange(context, palette.ink, feature, spread.low, spread.high, x, y + 8, [left, right]);
        context.fillStyle = palette.ink;
        context.fillRect(x(spread.mean) - 0.75, y + 5.5, 1.5, 5);
      });
      context.fillStyle = palette.ink3;
      context.font = mono;
      for (const share of [0, 0.25, 0.5, 0.75, 1]) {
        const text = String(Math.round(shownValue(feature, max * share)));
        context.textAlign = share === 1 ? "right" : share === 0 ? "left" : "center";
        context.fillText(text, left + share * (right - left), height - 4);
      }
      context.textAlign = "left";
    },
    [rows, feature, width, height, palette, chosen, row, left, right, max, x, dotAt],
  );

  /** The dot nearest to the pointer, if one is near. */
  const dotUnder = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [px, py] = [event.clientX - box.left, event.clientY - box.top];
    const i = Math.floor((py - TOP) / row);
    if (i < 0 || i >= rows.length) return undefined;
    let best: number | undefined;
    let least = 7;
    rows[i].dots.forEach((_, k) => {
      const at = dotAt(i, k);
      const d = Math.hypot(at.x - px, at.y - py);
      if (d < least) [least, best] = [d, k];
    });
    const origin = best === undefined ? undefined : rows[i].dots[best];
    return origin && { source: origin.tape.head.id, t: origin.tape.block.t[origin.index] };
  };
  const over = hover === null ? undefined : groups[0] && placeOfHover(rows, hover, feature);
  return (
    <Place
      ref={ref}
      onPointerMove={(event) => dispatch(hovered(dotUnder(event) ?? null))}
      onPointerLeave={() => dispatch(hovered(null))}
      onPointerUp={(event) => {
        const at = dotUnder(event);
        if (at === undefined) return;
        dispatch(watchingChosen("tape"));
        dispatch(tapeChosen(at.source));
        dispatch(playheadMoved(at));
      }}
    >
      <Canvas
        width={width}
        height={height}
        draw={draw}
        label={`Spread of ${FEATURE_FACTS[feature].word}: ${rows.map(({ group, spread }) => `${group.name} ${spread ? Math.round(shownValue(feature, spread.mean)) : "none"}`).join(", ")}`}
      />
      {over && (
        <i
          style={{
            position: "absolute",
            left: x(over.value) - 5,
            top: TOP + over.row * row + row / 2 - 5,
            width: 10,
            height: 10,
            borderRadius: "50%",
            border: "2px solid var(--ink)",
            pointerEvents: "none",
          }}
        />
      )}
    </Place>
  );
}

/** In which row, and at which value, the hovered instant lies. */
function placeOfHover(rows: readonly { group: Group }[], hover: { source: string; t: number }, feature: Feature) {
  const tape = rows.flatMap(({ group }) => group.picked.slice(0, 1)).find((p) => p.tape.head.id === hover.source)?.tape;
  if (tape === undefined) return undefined;
  const index = tape.block.indexAt(hover.t);
  const mark = tape.head.marks[tape.mark[index] - 1];
  const row = rows.findIndex(
    ({ group }) => group.target.id === mark?.target && (group.light === undefined || group.light === mark.light),
  );
  const value = tape.block.column(feature)[index];
  return row < 0 || Number.isNaN(value) ? undefined : { row, value };
}

/** The middle 90 %; for hue it may run through 0 and then lies at both ends. */
function drawRange(
  context: CanvasRenderingContext2D,
  ink: string,
  feature: Feature,
  low: number,
  high: number,
  x: (v: number) => number,
  y: number,
  [left, right]: [number, number],
) {
  context.fillStyle = ink;
  if (feature === "hue" && low > high) {
    context.fillRect(left, y, x(high) - left, 1);
    context.fillRect(x(low), y, right - x(low), 1);
  } else context.fillRect(x(low), y, Math.max(1, x(high) - x(low)), 1);
}
