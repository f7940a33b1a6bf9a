import type { SensorId } from "@perceptum/core/names";
import type { Sensor } from "@perceptum/core/readings";
import { memo, useMemo } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished } from "../hooks/usePublished";
import type { LastRun } from "../model/judging/Mentor";
import { playingSet, runEyeChosen, type Source, speedChosen, tapeChosen } from "../model/store/view";
import { Button } from "../ui/Button";
import { Select } from "../ui/Select";
import { useTapeZoom } from "./useTapeWindow";
import { useTransport } from "./useTransport";

export const Row = styled.div`
  display: flex;
  gap: 4px;
  align-items: center;
  min-width: 0;
`;
const SPEEDS = [0.25, 0.5, 1, 2, 4, 8, 16].map((x) => ({ id: String(x), text: `× ${x}` }));

/** The sensors that a run was made with. */
const sensorsOf = (run: LastRun | null): readonly Sensor[] => {
  if (run === null) return [];
  const { trace, project } = run;
  return trace.eyes.flatMap((eye) => project.sensors.find((s) => s.id === eye.sensor) ?? []);
};

const NO_TAPE = "There is no tape yet.";

/** Buttons and lists that choose, play, step through and enlarge what lies below; drawn anew only with what they show. */
export const TapeControls = memo(function TapeControls(props: {
  source: Source | undefined;
  name: string;
  eye: SensorId | undefined;
  isWhole: boolean;
}) {
  const { source, name, eye, isWhole } = props;
  const { tapes } = useSettledProject();
  const tape = useAppSelector((state) => state.view.tape);
  const speed = useAppSelector((state) => state.view.speed);
  const run = usePublished(useSession().mentor.lastRun);
  const eyes = useMemo(() => sensorsOf(run), [run]);
  const dispatch = useAppDispatch();
  const transport = useTransport();
  const { zoom, pan, whole } = useTapeZoom();
  const none = source === undefined && NO_TAPE;
  const all = none || (isWhole && "All of it is shown.");
  return (
    <>
      {source === "run" && eyes.length > 1 ? (
        <Select
          label="Sensor of the run"
          hideLabel
          value={eye ?? null}
          options={eyes.map((sensor) => ({ id: sensor.id, text: sensor.name }))}
          onChange={(id) => dispatch(runEyeChosen(id))}
        />
      ) : source === "run" || source === "live" ? (
        <Row style={{ height: 26, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>{name}</Row>
      ) : (
        <Select
          label="Tape"
          hideLabel
          value={tape}
          options={tapes.map(({ id, name }) => ({ id, text: name }))}
          onChange={(id) => dispatch(tapeChosen(id))}
        />
      )}
      <Row>
        <Button aria-label="One reading back" why={none} onPress={() => transport.step(-1)}>
          ◂
        </Button>
        <Button $main why={none} onPress={() => (transport.playing ? dispatch(playingSet(false)) : transport.play())}>
          {transport.playing ? "Pause" : "Play"}
        </Button>
        <Button aria-label="One reading on" why={none} onPress={() => transport.step(1)}>
          ▸
        </Button>
        <Select
          label="Playing speed"
          hideLabel
          value={String(speed)}
          options={SPEEDS}
          onChange={(x) => dispatch(speedChosen(Number(x)))}
        />
      </Row>
      <Row>
        <Button $small aria-label="Show less of the tape" why={none} onPress={() => zoom(0.5)}>
          +
        </Button>
        <Button $small aria-label="Show more of the tape" why={all} onPress={() => zoom(2)}>
          −
        </Button>
        <Button $small aria-label="Earlier part" why={all} onPress={() => pan(-0.5)}>
          ‹
        </Button>
        <Button $small aria-label="Later part" why={all} onPress={() => pan(0.5)}>
          ›
        </Button>
        <Button $small why={all} onPress={whole}>
          Whole
        </Button>
      </Row>
    </>
  );
});
