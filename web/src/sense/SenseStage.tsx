import styled from "styled-components";
import { useProject } from "../state/project";
import { useSource } from "../state/source";
import { FindingList } from "../ui/FindingList";
import { Dim, Empty, Head, Pane, Spacer, StageGrid, Title } from "../ui/layout";
import { MarkedStretches } from "./MarkedStretches";
import { ReadingNow } from "./ReadingNow";
import { SpreadPlots } from "./SpreadPlots";
import { StretchStatistics } from "./StretchStatistics";

const Rows = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 1px;
  min-height: 0;
  min-width: 0;
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 24px;
`;

/** What does the sensor read? The reading at the playhead, its stretch, and how the targets spread. */
export default function SenseStage() {
  const project = useProject();
  const source = useSource();
  const sensor = project.sensors.find((s) => s.id === source?.sensor) ?? project.sensors[0];
  const [r = [0, 1]] = Object.values(sensor.scale);
  const white = sensor.reference
    ? `white ${sensor.reference.white.join(" ")}, dark ${sensor.reference.dark.join(" ")}`
    : "no white and dark taken";
  return (
    <StageGrid $columns="minmax(0, 1fr) 316px">
      <Rows>
        <Pane $sheet aria-label="Reading">
          <Head>
            <Title>Sensor</Title>
            <b>{sensor.name}</b>
            <Dim>
              reports RGB, {r[0]}–{r[1]}, every {sensor.periodMs} ms
            </Dim>
            <Spacer />
            <Dim>{white}</Dim>
          </Head>
          {source === null ? (
            <Empty>
              No readings yet. Open the demo from the list of projects, or make a run in Prove and keep it as a tape.
            </Empty>
          ) : (
            <Two>
              <ReadingNow source={source} />
              <StretchStatistics source={source} />
            </Two>
          )}
        </Pane>
        <Pane $sheet aria-label="How the targets spread">
          <SpreadPlots />
        </Pane>
      </Rows>
      <Pane aria-label="Marked stretches">
        <MarkedStretches />
        <FindingList stage="sense" />
      </Pane>
    </StageGrid>
  );
}
