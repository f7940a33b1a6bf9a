import styled from "styled-components";
import { useProject, useTargets } from "../hooks/project";
import { type SourceView, usePlayhead } from "../hooks/source";
import { Chip } from "../targets/Chip";
import { amount } from "../ui/amount";
import { Dim, Empty, Title } from "../ui/layout";
import { seconds } from "../ui/seconds";
import { RangeStatistics } from "./RangeStatistics";

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
  if (mark === undefined) {
    return (
      <div>
        <Title>Marked stretch</Title>
        <Empty>
          The playhead is in no marked stretch. Choose one on the right, or mark one: drag on the lane “truth” of the
          tape.
        </Empty>
      </div>
    );
  }
  const from = block.firstFrom(mark.from);
  const to = block.indexAt(mark.to) + 1;
  const light = project.lights.find((l) => l.id === mark.light)?.name;
  return (
    <section aria-label="Statistics of the marked stretch">
      <Title>Marked stretch</Title>
      <Head>
        <Chip target={targets.get(mark.target)} />
        <b>{targets.get(mark.target)?.name}</b>
        <Dim>
          {light ?? "light not noted"}
          {mark.height !== undefined && `, ${mark.height} mm`}, {seconds(mark.to - mark.from, 1)},{" "}
          {amount(to - from, "reading")}
        </Dim>
      </Head>
      <RangeStatistics block={block} raw={raw} from={from} to={to} label="The marked stretch" />
    </section>
  );
}
