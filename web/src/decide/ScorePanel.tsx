import { useDeferredValue } from "react";
import styled from "styled-components";
import { judged } from "../state/judged";
import { usePublished } from "../state/Published";
import { useSettledProject } from "../state/project";
import { Dim, Empty, Num, Title } from "../ui/layout";

const Table = styled.table`
  font: 11px ${({ theme }) => theme.mono};
  margin-top: 4px;
  & th { font-weight: 400; color: ${({ theme }) => theme.ink2}; text-align: right; padding: 1px 3px; }
  & td { text-align: right; padding: 1px 3px; min-width: 29px; border: 1px solid ${({ theme }) => theme.ruleSoft}; }
  & td[data-kind="none"] { color: ${({ theme }) => theme.rule}; }
  & td[data-kind="right"] { background: ${({ theme }) => theme.pressed}; }
  & td[data-kind="wrong"] { background: ${({ theme }) => theme.ink}; color: ${({ theme }) => theme.sheet}; font-weight: 700; }
`;

/** Of all marked readings, the share that was judged rightly. */
export function ScoreShare() {
  const { score } = usePublished(judged);
  if (score.marked === 0) return null;
  return (
    <Num aria-label="Share judged rightly" role="status">
      {((100 * score.right) / score.marked).toFixed(1)} %
    </Num>
  );
}

/** What each marked target was taken for. Rows are the truth, columns what it was taken for. */
export function ScorePanel() {
  const { targets } = useSettledProject();
  // The share above follows at once; the matrix may come a moment later.
  const { score, project } = useDeferredValue(usePublished(judged));
  if (score.marked === 0 || score.counts.length !== targets.length) {
    return <Empty>No marked readings yet, so nothing can be scored.</Empty>;
  }
  const used = new Set(project?.ruleSets.flatMap((set) => set.rules.map((r) => r.target)));
  const columns = [0, ...targets.flatMap((t, i) => (used.has(t.id) ? [i + 1] : []))];
  const kindOf = (truth: number, label: number, n: number) => {
    if (n === 0) return "none";
    const ground = (i: number) => targets[i - 1].kind === "background";
    return label === truth || (ground(truth) && (label === 0 || ground(label))) ? "right" : "wrong";
  };
  return (
    <section aria-label="Score">
      <Title style={{ marginTop: 14 }}>Score: truth in rows, taken for in columns</Title>
      <Table>
        <thead>
          <tr>
            <th />
            {columns.map((c) => (
              <th key={c} scope="col" aria-label={c === 0 ? "unknown" : targets[c - 1].name}>
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
                return (
                  <td key={c} data-kind={kindOf(i + 1, c, n)}>
                    {n === 0 ? "·" : n}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
      <Dim style={{ fontSize: 11.5 }}>
        {score.right} of {score.marked} marked readings judged rightly; a background is right as long as it is taken for
        no target.
      </Dim>
    </section>
  );
}
