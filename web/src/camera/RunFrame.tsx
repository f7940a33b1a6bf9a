import { isCamera } from "@perceptum/core/readings";
import { stripIn } from "@perceptum/core/vision";
import { useMemo } from "react";
import styled from "styled-components";
import { useAppSelector } from "../hooks/store";
import { cameraEye } from "../model/camera/CameraWork";
import type { LastRun } from "../model/judging/Mentor";
import { Dim, Empty, Head, Spacer, Title } from "../ui/layout";
import { FoundTable } from "./FoundTable";
import { FrameView } from "./FrameView";
import { useFrame, useSetup } from "./useFrame";
import { useProbe } from "./useProbe";
import { useRunFrames } from "./useRunFrames";

const Holder = styled.section`
  display: flex;
  flex-direction: column;
  height: 268px;
  flex: none;
  margin-bottom: 10px;
`;

/** What a run's camera saw at a time: the frame, the mask of the chosen target, and blobs. */
export function RunFrame({ run, t }: { run: LastRun; t: number }) {
  const { project } = run;
  const eye = cameraEye(run);
  const sensor = project.sensors.find((s) => s.id === eye?.sensor);
  const names = useRunFrames(run);
  const target = useAppSelector((state) => state.view.target);
  if (eye === undefined || sensor === undefined || !isCamera(sensor)) return null;
  const k = Math.max(
    0,
    eye.readings.t.findLastIndex((at) => at <= t),
  );
  return (
    <Shown
      key={sensor.id}
      name={names[k]}
      sensor={sensor}
      project={project}
      target={target}
      title={`${sensor.name}, frame ${k + 1} of ${eye.readings.t.length}`}
    />
  );
}

function Shown(props: {
  name: string | undefined;
  sensor: Parameters<typeof useSetup>[0];
  project: LastRun["project"];
  target: string | null;
  title: string;
}) {
  const { name, sensor, project, target, title } = props;
  const setup = useSetup(sensor, project.ruleSets, project.targets);
  const label = project.targets.findIndex((x) => x.id === target) + 1;
  const { seen, trouble } = useFrame(name, setup, label);
  const strip = useMemo(() => stripIn(sensor.frame, sensor.strip), [sensor]);
  const probe = useProbe(seen, sensor);
  return (
    <>
      <Holder aria-label="Frame of the run">
        <Head style={{ marginBottom: 4, minHeight: 22 }}>
          <Title>{title}</Title>
          <Spacer />
          {label === 0 && <Dim style={{ fontSize: 11.5 }}>a chosen target shows its mask</Dim>}
        </Head>
        {trouble !== null ? (
          <Empty role="alert">The frame cannot be shown: {trouble}.</Empty>
        ) : seen === null ? (
          <Empty>The frame is taken once more.</Empty>
        ) : (
          <FrameView
            seen={seen}
            strip={strip}
            targets={project.targets}
            label={title}
            onProbe={probe.over}
            onPress={probe.pin}
          />
        )}
      </Holder>
      {seen !== null && <FoundTable looked={seen.looked} targets={project.targets} />}
    </>
  );
}
