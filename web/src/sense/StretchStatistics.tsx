import { FEATURE_FACTS, type Feature, shownValue } from "@perceptum/core/readings";
import { spreadOf } from "@perceptum/core/teaching";
import { useMemo } from "react";
import styled from "styled-components";
import { useProject, useTargets } from "../state/project";
import { type SourceView, usePlayhead } from "../state/source";
import { Chip } from "../targets/Chip";
import { Dim, Empty, Title } from "../ui/layout";

const Table = styled.table`
  width: 100%;
  font-size: 12px;
  margin-top: 6px;
  & th { text-align: right; font-weight: 400; color: ${({ theme }) => theme.ink2}; padding: 2px 0; }
  & td { text-align: right; font-family: ${({ theme }) => theme.mono}; padding: 2px 0; }
  & th:first-child { text-align: left; }
`;
const Head = styled.p`
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 5px;
  min-height: 20px;
`;

/** Mean, spread and range of the marked stretch that the playhead is in. */
export function StretchStatistics({ source }: { source: SourceView }) {
  const { block, raw, marks } = source;
  const t = usePlayhead(source.source);
  const targets = useTargets();
  const project = useProject();
  const mark = marks.find((m) => m.from <= t && t <= m.to);

  const rows = useMemo(() => {
    if (mark === undefined) return [];
    const from = block.indexAt(mark.from);
    const to = block.indexAt(mark.to) + 1;
    const channel = (name: string, values: Float64Array) => ({
      name: `raw ${name.toUpperCase()}`,
      spread: spreadOf("r", values.subarray(from, to)),
      show: (v: number) => v.toFixed(0),
      width: (v: number) => v.toFixed(1),
    });
    const feature = (f: Feature) => ({
      name: `${f} ${FEATURE_FACTS[f].unit}`,
      spread: spreadOf(f, block.column(f).slice(from, to)),
      show: (v: number) => shownValue(f, v).toFixed(1),
      width: (v: number) => shownValue(f, v).toFixed(1),
    });
    return [...raw.map((c) => channel(c.channel, c.values)), feature("hue"), feature("sat"), feature("val")];
  }, [mark, block, raw]);

  if (mark === undefined) {
    return (
      <div>
        <Title>Marked stretch</Title>
        <Empty>The playhead is in no marked stretch. Choose one on the right, or move the playhead onto one.</Empty>
      </div>
    );
  }
  const light = project.lights.find((l) => l.id === mark.light)?.name;
  return (
    <section aria-label="Statistics of the marked stretch">
      <Title>Marked stretch</Title>
      <Head>
        <Chip target={targets.get(mark.target)} />
        <b>{targets.get(mark.target)?.name}</b>
        <Dim>
          {light ?? "light not noted"}
          {mark.height !== undefined && `, ${mark.height} mm`}, {((mark.to - mark.from) / 1000).toFixed(1)} s,{" "}
          {rows[0]?.spread?.count ?? 0} readings
        </Dim>
      </Head>
      <Table>
        <thead>
          <tr>
            <th />
            <th>mean</th>
            <th>spread</th>
            <th>range</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ name, spread, show, width }) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{spread ? show(spread.mean) : "–"}</td>
              <td>{spread ? `± ${width(spread.deviation)}` : "–"}</td>
              <td>{spread ? `${show(spread.min)}–${show(spread.max)}` : "–"}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
