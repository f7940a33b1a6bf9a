import { freeId, nextId, numbered, type RuleId } from "@perceptum/core/names";
import type { Target, Test } from "@perceptum/core/rules";
import { useMemo } from "react";
import { useStore } from "react-redux";
import styled from "styled-components";
import { currentRuleSet, useEdit } from "../../hooks/project";
import { useAppDispatch, useAppSelector } from "../../hooks/store";
import type { AppState } from "../../model/store/store";
import { ruleChosen } from "../../model/store/view";
import type { Axis } from "./axis";
import { type Regions, regionsOf } from "./regions";

/** Room around the plot for ticks and names. */
export const INSET = { left: 42, right: 12, top: 36, bottom: 30 };

export const Room = styled.div`
  position: relative;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
`;

/** A box as it is drawn in the field: shares of its width, and of its height from below. */
export interface Rubber {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** What a box drawn in the field becomes: another clause of the chosen rule, or a new rule for the chosen target. */
export function useDrawBox() {
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  return (xAxis: Axis, yAxis: Axis, { x0, y0, x1, y1 }: Rubber) => {
    const { rule, target } = store.getState().view;
    const test = (axis: Axis, a: number, b: number): Test => ({
      feature: axis.feature,
      from: axis.value(Math.min(a, b)),
      to: axis.value(Math.max(a, b)),
    });
    const all = [
      test(xAxis, x0, x1),
      ...(yAxis.scatter || yAxis.feature === xAxis.feature ? [] : [test(yAxis, y0, y1)]),
    ];
    const set = currentRuleSet(store.getState());
    if (set === undefined) return;
    const known = set.rules.find((r) => r.id === rule);
    if (known !== undefined) {
      edit("addClause", { ruleSet: set.id, rule: known.id, clause: { id: nextId("clause", known.any), all } });
      return;
    }
    if (target === null) return;
    const id = freeId<RuleId>(
      target,
      set.rules.map((r) => r.id),
    );
    const made = { id, target, on: true, any: numbered("clause", [{ all }]) };
    edit("addRule", { ruleSet: set.id, rule: made, before: null });
    dispatch(ruleChosen({ rule: id, target }));
  };
}

/** Which region goes to whom by the nearest method. */
export function useRegions(xAxis: Axis, yAxis: Axis): Regions | undefined {
  const nearest = useAppSelector((state) => {
    const set = currentRuleSet(state);
    return set?.method === "nearest" ? set : null;
  });
  return useMemo(() => (nearest === null ? undefined : regionsOf(nearest, xAxis, yAxis)), [nearest, xAxis, yAxis]);
}

export function drawRegions(
  context: CanvasRenderingContext2D,
  { columns, rows, labels }: Regions,
  targets: readonly Target[],
  width: number,
  height: number,
): void {
  const paints = new Map(targets.map((t) => [t.id, t.paint]));
  const [w, h] = [width / columns, height / rows];
  context.globalAlpha = 0.22;
  labels.forEach((label, i) => {
    if (label === null) return;
    context.fillStyle = paints.get(label) ?? "#808080";
    // Whole pixels, so that neighbours neither overlap nor leave a line between them.
    const [x, y] = [Math.round((i % columns) * w), Math.round(Math.floor(i / columns) * h)];
    context.fillRect(x, y, Math.round(((i % columns) + 1) * w) - x, Math.round((Math.floor(i / columns) + 1) * h) - y);
  });
  context.globalAlpha = 1;
}
