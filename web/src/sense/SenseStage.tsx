import { isCamera, REPORT_KINDS } from "@perceptum/core/readings";
import { useState } from "react";
import styled from "styled-components";
import { FindingList } from "../findings/FindingList";
import { useProject, useSensor } from "../hooks/project";
import { type SourceView, usePlayhead, useSource } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { watchingChosen } from "../model/store/sense";
import { sensorChosen } from "../model/store/view";
import { Button, Choice } from "../ui/Button";
import { Dim, Empty, Head, Pane, SideBySide, Spacer, StageGrid } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { NARROW } from "../ui/narrow";
import { Select } from "../ui/Select";
import { seconds } from "../ui/seconds";
import { ReadingNow } from "./ReadingNow";
import { SpreadPlots } from "./SpreadPlots";
import { StretchStatistics } from "./StretchStatistics";
import { sensorText } from "./sensorWords";
import { TapesPane } from "./TapesPane";

const Stand = lazily(() => import("./Stand").then((m) => m.Stand));

const LinkPanel = lazily(() => import("./LinkPanel").then((m) => m.LinkPanel));

const BenchPane = lazily(() => import("./BenchPane").then((m) => m.BenchPane));

const WhiteDarkSheet = lazily(() => import("./WhiteDarkSheet").then((m) => m.WhiteDarkSheet));

const OwnCamera = lazily(() => import("../camera/OwnCamera").then((m) => m.OwnCamera));

const LinkedCamera = lazily(() => import("../camera/LinkedCamera").then((m) => m.LinkedCamera));

const FramePane = lazily(() => import("../camera/FramePane").then((m) => m.FramePane));

const SensorSheet = lazily(() => import("./SensorSheet").then((m) => m.SensorSheet));

const Rows = styled.div<{ $frames: boolean }>`
  display: grid;
  grid-template-rows: ${({ $frames }) => ($frames ? "minmax(0, 1.7fr)" : "auto")} minmax(0, 1fr);
  gap: 1px;
  min-height: 0;
  min-width: 0;
  ${NARROW} { grid-template-rows: auto; }
`;
const Facts = styled.div`
  display: flex;
  gap: 8px;
  font-size: 12px;
  padding-bottom: 6px;
  & > span { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
`;

const WATCHING = [
  { id: "tape", text: "Tape" },
  { id: "bench", text: "Bench" },
  { id: "live", text: "Live" },
] as const;

const WATCHING_FRAMES = [
  { id: "tape", text: "Tape" },
  { id: "bench", text: "Camera" },
  { id: "live", text: "Live" },
] as const;

/** What does the sensor read? Live on the bench or on a tape; white and dark; how the targets spread. */
export function SenseStage() {
  const project = useProject();
  const sensor = useSensor();
  const watching = useAppSelector((state) => state.sense.watching);
  const dispatch = useAppDispatch();
  const [sheet, setSheet] = useState<"change" | "add" | "white" | null>(null);
  const { reference, reports } = sensor;
  const referenced = REPORT_KINDS.get(reports).referenced;
  return (
    <StageGrid $columns="minmax(0, 1fr) 316px">
      <Rows $frames={isCamera(sensor)}>
        <Pane $sheet aria-label="Reading">
          <Head style={{ marginBottom: 4, flexWrap: "wrap", rowGap: 4 }}>
            <Choice
              label="What is watched"
              value={watching}
              options={isCamera(sensor) ? WATCHING_FRAMES : WATCHING}
              onChange={(id) => dispatch(watchingChosen(id))}
            />
            <Select
              label="Sensor"
              hideLabel
              value={sensor.id as string}
              options={project.sensors.map((s) => ({ id: s.id as string, text: s.name }))}
              onChange={(id) => {
                const chosen = project.sensors.find((s) => s.id === id);
                if (chosen) dispatch(sensorChosen({ sensor: chosen.id, ruleSet: chosen.ruleSet }));
              }}
            />
            <Button onPress={() => setSheet("change")}>Change sensor</Button>
            <Button onPress={() => setSheet("add")}>Add sensor</Button>
            <Spacer />
            <Button
              why={!referenced && "A sensor that reports this has no white and dark."}
              onPress={() => setSheet("white")}
            >
              White and dark
            </Button>
          </Head>
          <Facts>
            <Dim>{sensorText(sensor)}</Dim>
            <Spacer />
            <Dim>
              {reference
                ? `white ${reference.white.join(" ")}, dark ${reference.dark.join(" ")}`
                : referenced
                  ? "no white and dark taken"
                  : "white and dark do not apply"}
            </Dim>
          </Facts>
          {watching === "tape" ? (
            <TapeReading />
          ) : isCamera(sensor) ? (
            watching === "live" ? (
              <LinkedCamera key={sensor.id} sensor={sensor} />
            ) : (
              <OwnCamera key={sensor.id} sensor={sensor} />
            )
          ) : (
            <BenchPane live={watching === "live"} />
          )}
        </Pane>
        <Pane $sheet aria-label="How the targets spread">
          <SpreadPlots />
        </Pane>
      </Rows>
      <Pane aria-label="Tapes and marks">
        {watching === "bench" && !isCamera(sensor) && <Stand />}
        {watching === "live" && <LinkPanel />}
        <TapesPane />
        <FindingList stage="sense" />
      </Pane>
      {(sheet === "change" || sheet === "add") && (
        <SensorSheet key={sheet} sensor={sheet === "add" ? null : sensor} onClose={() => setSheet(null)} />
      )}
      {sheet === "white" && <WhiteDarkSheet onClose={() => setSheet(null)} />}
    </StageGrid>
  );
}

function TapeReading() {
  const source = useSource();
  const { tapes } = useProject();
  if (source === null || source.block.length === 0)
    return (
      <Empty>
        {source === null
          ? "No tape yet. Record one on the bench, or import readings on the right."
          : "This tape has no readings."}
      </Empty>
    );
  const tape = tapes.find((t) => t.id === source.source);
  if (isCamera(source.sensor))
    // A run that is still below gives way to a tape at once.
    return tape && <FramePane key={tape.id} source={source} tape={tape} sensor={source.sensor} />;
  return (
    <SideBySide>
      <AtPlayhead source={source} />
      <StretchStatistics source={source} />
    </SideBySide>
  );
}

function AtPlayhead({ source }: { source: SourceView }) {
  const { block, raw } = source;
  const index = block.indexAt(usePlayhead(source.source));
  return (
    <ReadingNow
      block={block}
      raw={raw}
      index={index}
      label="Reading at the playhead"
      title={`Reading ${index + 1} of ${block.length}, at ${seconds(block.t[index])}`}
    />
  );
}
