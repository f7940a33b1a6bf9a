import { type CameraSensor, type RawReadings, ReadingBlock, type TapeHead } from "@perceptum/core/readings";
import { stripIn } from "@perceptum/core/vision";
import { useEffect, useMemo } from "react";
import styled from "styled-components";
import { useReadingsVersion, useSession } from "../hooks/context";
import { useProject, useTargets } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { playheadMoved, tapeChosen } from "../model/store/view";
import { Button } from "../ui/Button";
import { Dim, Empty, Head, Spacer, Title } from "../ui/layout";
import type { ShownFrame } from "../workers/Vision";
import { FrameView } from "./FrameView";
import { useFrame, useSetup } from "./useFrame";
import { useProbe } from "./useProbe";

const Holder = styled.section`
  min-height: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  padding: 0 8px;
`;

/** So many pixels of a frame lie in the colour field. */
const MOST_PIXELS = 12_000;

/** The frame of a camera's tape beside the colour field: its mask follows every move of a bound. */
export function FrameBeside({ tape, sensor }: { tape: TapeHead; sensor: CameraSensor }) {
  const project = useProject();
  const session = useSession();
  const dispatch = useAppDispatch();
  useReadingsVersion();
  const targets = useTargets();
  const target = useAppSelector((state) => state.view.target);
  const playhead = useAppSelector((state) => state.view.playheads[tape.id] ?? 0);
  const t = session.readings.get(tape.id)?.t ?? new Float64Array();
  const index = Math.max(
    0,
    t.findLastIndex((x) => x <= playhead),
  );
  const setup = useSetup(sensor, project.ruleSets, project.targets);
  const label = project.targets.findIndex((x) => x.id === target) + 1;
  const { seen, trouble, isLooked, looks } = useFrame(tape.frames?.[index], setup, label, true);
  const strip = useMemo(() => stripIn(sensor.frame, sensor.strip), [sensor]);
  const probe = useProbe(seen, sensor);
  const shown = seen?.shown;
  useEffect(() => {
    if (shown === undefined) return;
    session.framePixels.set({ ruleSet: sensor.ruleSet, block: new ReadingBlock(somePixels(shown, sensor), sensor) });
  }, [session, shown, sensor]);
  useEffect(() => () => session.framePixels.set(null), [session]);

  const own = seen?.looked.blobs.find((blob) => blob.target === target);
  const name = target === null ? undefined : targets.get(target)?.name;
  const step = (by: 1 | -1) => {
    dispatch(tapeChosen(tape.id));
    dispatch(playheadMoved({ source: tape.id, t: t[Math.max(0, Math.min(t.length - 1, index + by))] }));
  };
  return (
    <Holder aria-label="Frame beside the field" data-looked={isLooked} data-looks={looks}>
      <Head style={{ marginBottom: 4, minHeight: 24 }}>
        <Title>
          Frame {index + 1} of {t.length}
        </Title>
        <Dim style={{ whiteSpace: "nowrap" }}>
          {name === undefined
            ? "choose a target to see its mask"
            : own === undefined
              ? `no blob of ${name}`
              : `${name}: ${own.found[0].width} × ${own.found[0].height} px, ${own.found[0].area} in all`}
        </Dim>
        <Spacer />
        <Button $small aria-label="Earlier frame" why={index === 0 && "It is the first."} onPress={() => step(-1)}>
          ◂
        </Button>
        <Button
          $small
          aria-label="Later frame"
          why={index >= t.length - 1 && "It is the last."}
          onPress={() => step(1)}
        >
          ▸
        </Button>
      </Head>
      {trouble !== null ? (
        <Empty role="alert">The frame cannot be shown: {trouble}.</Empty>
      ) : seen === null ? (
        <Empty>The frame is fetched.</Empty>
      ) : (
        <FrameView
          seen={seen}
          strip={strip}
          targets={project.targets}
          label={`Frame ${index + 1} of ${tape.name}, with the mask of ${name ?? "no target"}`}
          onProbe={probe.over}
          onPress={probe.pin}
        />
      )}
    </Holder>
  );
}

/** Pixels of a frame as readings, evenly picked. */
function somePixels({ width, height, data }: ShownFrame, sensor: CameraSensor): RawReadings {
  const count = Math.min(MOST_PIXELS, width * height);
  const columns = [0, 1, 2].map(() => new Float64Array(count));
  const wire = [...(sensor.order ?? "rgb")].map((letter) => "rgb".indexOf(letter));
  for (let k = 0; k < count; k++) {
    const at = 4 * Math.floor((k * width * height) / count);
    for (let c = 0; c < 3; c++) columns[c][k] = data[at + wire[c]];
  }
  const [r, g, b] = columns;
  return { t: Float64Array.from({ length: count }, (_, k) => k), channels: { r, g, b } };
}
