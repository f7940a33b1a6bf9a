import type { ScoreFigures } from "@perceptum/core/teaching";
import { useDeferredValue, useState } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useMarkedTapes } from "../hooks/marked";
import { useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished } from "../hooks/usePublished";
import { playheadMoved, tapeChosen } from "../model/store/view";
import { Figures } from "../ui/Figures";
import { Dim, Empty, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { Status } from "../ui/Status";
import { seconds } from "../ui/seconds";

const FrameFigures = lazily(() => import("../camera/FrameFigures").then((m) => m.FrameFigures));

const Table = styled.table`
  font: 11px ${({ theme }) => theme.mono};
  margin-top: 4px;
  & th { font-weight: 400; color: ${({ theme }) => theme.ink2}; text-align: right; padding: 1px 3px; }
  & td { text-align: right; padding: 0; min-width: 29px; border: 1px solid ${({ theme }) => theme.ruleSoft}; }
  & td[data-kind="none"] { color: ${({ theme }) => theme.rule}; }
  & td[data-kind="right"] { background: ${({ theme }) => theme.pressed}; }
  & td[data-kind="wrong"] { background: ${({ theme }) => theme.ink}; color: ${({ theme }) => theme.sheet}; font-weight: 700; }
  & small { font-size: 9px; }
`;
const Cell = styled.button`
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  padding: 1px 3px;
  width: 100%;
  min-width: 24px;
  min-height: 24px;
  text-align: right;
  cursor: pointer;
  &:disabled { cursor: default; }
`;
const percent = (x: number) => `${(100 * x).toFixed(1)} %`;

/** Of all marked readings, the share that was judged rightly. */
export function ScoreShare() {
  const { score } = usePublished(useSession().judging.judged);
  if (score.marked === 0) return null;
  return <Status label="Share judged rightly">{`${percent(score.right / score.marked)} right`}</Status>;
}

/** How good the rules are: the share with its interval, by light, by target, and what was taken for what. */
export function ScorePanel() {
  const { targets, lights, tapes } = useSettledProject();
  const tape = useAppSelector((state) => state.view.tape);
  const chosen = tapes.find((t) => t.id === tape);
  // The share above follows at once; the matrix may come a moment later.
  const { score, before } = useDeferredValue(usePublished(useSession().judging.judged));
  if (score.marked === 0 || score.counts.length !== targets.length) {
    return <Empty>No marked readings yet, so nothing can be scored. Record and mark in Sense.</Empty>;
  }
  const share = score.right / score.marked;
  const [low, high] = score.interval;
  const of = (t: number) => score.counts[t].reduce((a, b) => a + b, 0);
  const wrongFor = (t: number) => score.counts.reduce((sum, row, k) => sum + (k === t ? 0 : row[t + 1]), 0);
  return (
    <section aria-label="Score">
      <p>
        <b>{percent(share)}</b> of {score.marked} marked readings judged rightly.
      </p>
      <Dim style={{ fontSize: 12, whiteSpace: "normal", display: "block" }}>
        95 % interval {percent(low)} to {percent(high)}: it rests on {score.visits} visits, since the readings of one
        visit are not independent.
        {before &&
          ` Before: ${percent(before.score.right / Math.max(1, before.score.marked))}; ${before.sum.gained} readings gained, ${before.sum.lost} lost.`}
      </Dim>
      <Title style={{ marginTop: 10 }}>Truth in rows, taken for in columns</Title>
      <Matrix score={score} before={before?.score} />
      <Title style={{ marginTop: 12 }}>By target</Title>
      <Figures>
        <thead>
          <tr>
            <th />
            <td>found</td>
            <td>false matches</td>
          </tr>
        </thead>
        <tbody>
          {targets.map((target, t) =>
            of(t) === 0 && wrongFor(t) === 0 ? null : (
              <tr key={target.id}>
                <th scope="row">{target.name}</th>
                <td>{target.kind === "background" ? `${of(t)} marked` : `${score.counts[t][t + 1]} of ${of(t)}`}</td>
                <td>{target.kind === "background" ? "" : wrongFor(t)}</td>
              </tr>
            ),
          )}
        </tbody>
      </Figures>
      {chosen?.frames !== undefined && <FrameFigures tape={chosen.id} />}
      <Title style={{ marginTop: 12 }}>By light</Title>
      <Figures>
        <thead>
          <tr>
            <th />
            <td>right</td>
            <td>found</td>
            <td>backgrounds mistaken for a target</td>
          </tr>
        </thead>
        <tbody>
          {score.byLight.map((l) => (
            <tr key={l.light ?? ""}>
              <th scope="row">{lights.find((x) => x.id === l.light)?.name ?? "not noted"}</th>
              <td>{percent(l.right / l.marked)}</td>
              <td>
                {l.found} of {l.targets}
              </td>
              <td>
                {l.taken} of {l.grounds}
              </td>
            </tr>
          ))}
        </tbody>
      </Figures>
    </section>
  );
}

function Matrix({ score, before }: { score: ScoreFigures; before: ScoreFigures | undefined }) {
  const { targets } = useSettledProject();
  const step = useCellStepper();
  const used = (label: number) =>
    label === 0 || score.counts.some((row) => row[label] > 0) || before?.counts.some((row) => row[label] > 0);
  const columns = [0, ...targets.map((_, i) => i + 1)].filter(used);
  const ground = (i: number) => targets[i - 1].kind === "background";
  const kindOf = (truth: number, label: number, n: number) => {
    if (n === 0) return "none";
    return label === truth || (ground(truth) && (label === 0 || ground(label))) ? "right" : "wrong";
  };
  const nameOf = (label: number) => (label === 0 ? "unknown" : targets[label - 1].name);
  return (
    <>
      <Table>
        <thead>
          <tr>
            <th />
            {columns.map((c) => (
              <th key={c} scope="col" aria-label={nameOf(c)}>
                {c === 0 ? "??" : targets[c - 1].code}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {targets.map((target, i) => (
            <tr key={target.id}>
              <th scope="row" aria-label={target.name}>
                {target.code}
              </th>
              {columns.map((c) => {
                const n = score.counts[i][c];
                const delta = before === undefined ? 0 : n - (before.counts[i]?.[c] ?? 0);
                return (
                  <td key={c} data-kind={kindOf(i + 1, c, n)}>
                    <Cell
                      type="button"
                      disabled={n === 0}
                      aria-label={`${n} readings of ${target.name} taken for ${nameOf(c)}${delta === 0 ? "" : `, ${delta > 0 ? "+" : "−"}${Math.abs(delta)} against before`}`}
                      onClick={() => step.next(i + 1, c)}
                    >
                      {n === 0 ? "·" : n}
                      {delta !== 0 && <small> {delta > 0 ? `+${delta}` : `−${-delta}`}</small>}
                    </Cell>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
      <Dim style={{ fontSize: 11.5, whiteSpace: "normal" }} role="status">
        {step.where ??
          "Press a cell to step through its readings. A background is right as long as it is taken for no target."}
      </Dim>
    </>
  );
}

/** Steps through the stretches of readings of one truth and label, on all tapes, from the playhead on. */
function useCellStepper() {
  const tapes = useMarkedTapes();
  const { judging } = useSession();
  const dispatch = useAppDispatch();
  const tape = useAppSelector((state) => state.view.tape);
  const t = useAppSelector((state) => (tape === null ? 0 : (state.view.playheads[tape] ?? 0)));
  const [where, setWhere] = useState<string>();
  const next = (truth: number, label: number) => {
    const runs = tapes.flatMap((marked) => {
      const labels = judging.judged.get().tapes.get(marked.head.id)?.labels;
      if (labels === undefined || labels.length !== marked.truth.length) return [];
      const found: { tape: typeof marked; index: number }[] = [];
      let within = false;
      for (let i = 0; i < labels.length; i++) {
        const hit = marked.truth[i] === truth && labels[i] === label;
        if (hit && !within) found.push({ tape: marked, index: i });
        within = hit;
      }
      return found;
    });
    if (runs.length === 0) return;
    const order = (id: string) => tapes.findIndex((x) => x.head.id === id);
    const here = tape === null ? -1 : order(tape);
    const at = runs.findIndex((r) => {
      const k = order(r.tape.head.id);
      return k > here || (k === here && r.tape.block.t[r.index] > t);
    });
    const k = Math.max(0, at);
    const { tape: on, index } = runs[k];
    dispatch(tapeChosen(on.head.id));
    dispatch(playheadMoved({ source: on.head.id, t: on.block.t[index] }));
    setWhere(`Stretch ${k + 1} of ${runs.length}, on ${on.head.name} at ${seconds(on.block.t[index])}.`);
  };
  return { next, where };
}
