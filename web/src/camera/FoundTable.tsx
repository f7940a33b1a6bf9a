import type { Target } from "@perceptum/core/rules";
import styled from "styled-components";
import { Chip } from "../targets/Chip";
import { Empty, Title } from "../ui/layout";
import type { Looked } from "../workers/Vision";

const Table = styled.table`
  width: 100%;
  font-size: 12px;
  border-collapse: collapse;
  & th { font-weight: 400; text-align: right; color: ${({ theme }) => theme.ink2}; padding: 1px 4px; }
  & th:first-child { text-align: left; }
  & td { font-family: ${({ theme }) => theme.mono}; text-align: right; padding: 2px 4px; white-space: nowrap; }
  & td:first-child { text-align: left; width: 28px; padding-left: 0; }
`;

const figure = (x: number) => (Number.isInteger(x) ? String(x) : x.toFixed(1));

/** The largest blob of each target in a frame: its size, its middle, and how far that lies from the set point. */
export function FoundTable(props: { looked: Looked; targets: readonly Target[] }) {
  const { looked, targets } = props;
  return (
    <section aria-label="Found in this frame">
      <Title>Found in this frame</Title>
      {looked.blobs.length === 0 ? (
        <Empty style={{ padding: "2px 0" }}>Nothing: no rule takes enough of its pixels.</Empty>
      ) : (
        <Table aria-label="The largest blob of each target, in px">
          <thead>
            <tr>
              <th>px</th>
              <th>w × h</th>
              <th>x</th>
              <th>y</th>
              <th>error</th>
            </tr>
          </thead>
          <tbody>
            {looked.blobs.map(({ target, measures: m }) => {
              const own = targets.find((t) => t.id === target);
              return (
                <tr key={target} aria-label={own?.name}>
                  <td>
                    <Chip target={own} />
                  </td>
                  <td>
                    {m.width} × {m.height}
                  </td>
                  <td>{figure(m.x)}</td>
                  <td>{figure(m.y)}</td>
                  <td>{m.error > 0 ? `+${figure(m.error)}` : figure(m.error).replace("-", "−")}</td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      )}
    </section>
  );
}
