import type { Target } from "@perceptum/core/project";
import { STAND_LIMITS, type Under } from "@perceptum/core/world";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { live } from "../state/live";
import { usePublishedPart } from "../state/Published";
import { inMarkOrder, useProject, useSensor } from "../state/project";
import { useAppDispatch, useAppSelector } from "../state/store";
import { standSet } from "../state/view";
import { Chip } from "../targets/Chip";
import { Button } from "../ui/Button";
import { Wrong } from "../ui/EntryField";
import { Dim, Head, Kbd, Num, Spacer, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { RangeField } from "../ui/RangeField";
import { Select } from "../ui/Select";
import { takesKeys } from "../ui/takesKeys";
import { finishRecording, freezeLive, markLive, setStand, startLive, startRecording, stopLive } from "./benchStream";
import { useTapeEdits } from "./useTapeEdits";

const LightsSheet = lazily(() => import("./LightsSheet").then((m) => m.LightsSheet));

const HeightSweepSheet = lazily(() => import("./HeightSweepSheet").then((m) => m.HeightSweepSheet));

const Line = styled.div`
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  padding: 2px 0;
  & > span:first-child { color: ${({ theme }) => theme.ink2}; }
`;
const Marks = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 4px 0 2px;
`;
const Hold = styled(Button)`
  display: inline-flex;
  gap: 4px;
  align-items: center;
  padding: 2px 4px;
`;

/** The bench: what lies under the simulated sensor, in which light, how high; and its recorder. */
export function Stand() {
  const { toggle, wrong } = useRecorder();
  useBench(toggle);
  const { targets, lights } = useProject();
  const stand = useAppSelector((state) => state.view.stand);
  const dispatch = useAppDispatch();
  const [sweeping, setSweeping] = useState(false);
  const [lighting, setLighting] = useState(false);
  const things: { id: Under; text: string }[] = [
    ...inMarkOrder(targets).map((t) => ({ id: t.id as Under, text: t.name })),
    { id: "white-card", text: "White card" },
    { id: "dark-cap", text: "Dark cap" },
    { id: "open-air", text: "Nothing" },
  ];
  return (
    <section aria-label="Stand">
      <Head style={{ marginBottom: 2 }}>
        <Title>Stand</Title>
        <Spacer />
        <Button $small onPress={() => setLighting(true)}>
          Lights
        </Button>
        <Button $small onPress={() => setSweeping(true)}>
          Height sweep
        </Button>
      </Head>
      <Line>
        <span>under it</span>
        <Select
          label="Under the sensor"
          hideLabel
          value={stand.under}
          options={things}
          onChange={(under) => dispatch(standSet({ under }))}
        />
      </Line>
      <Line>
        <span>edge with</span>
        <Select<Under | "none">
          label="Edge with"
          hideLabel
          value={stand.beside ?? "none"}
          options={[{ id: "none", text: "no edge" }, ...things]}
          onChange={(id) => dispatch(standSet({ beside: id === "none" ? null : id }))}
        />
      </Line>
      {stand.beside !== null && (
        <RangeField
          label="of the spot"
          value={stand.share}
          min={STAND_LIMITS.share[0]}
          max={STAND_LIMITS.share[1]}
          step={0.05}
          unit="%"
          shown={(v) => String(Math.round(v * 100))}
          onChange={(share) => dispatch(standSet({ share }))}
        />
      )}
      <Line>
        <span>light</span>
        <Select
          label="Light on the bench"
          hideLabel
          value={stand.light as string | null}
          options={lights.map((l) => ({ id: l.id as string, text: l.name }))}
          onChange={(id) => dispatch(standSet({ light: id as typeof stand.light }))}
        />
      </Line>
      <RangeField
        label="height"
        value={stand.height}
        min={0}
        max={STAND_LIMITS.height[1]}
        step={1}
        unit="mm"
        onChange={(height) => dispatch(standSet({ height }))}
      />
      <RangeField
        label="tilt"
        value={stand.tilt}
        min={0}
        max={STAND_LIMITS.tilt[1]}
        step={5}
        unit="°"
        onChange={(tilt) => dispatch(standSet({ tilt }))}
      />
      <RangeField
        label="tremble"
        value={stand.tremble}
        min={0}
        max={STAND_LIMITS.tremble[1]}
        step={0.2}
        unit="mm"
        onChange={(tremble) => dispatch(standSet({ tremble }))}
      />
      <Recorder toggle={toggle} wrong={wrong} />
      {lighting && <LightsSheet onClose={() => setLighting(false)} />}
      {sweeping && <HeightSweepSheet onClose={() => setSweeping(false)} />}
    </section>
  );
}

/** Keeps the bench streaming while it is watched, as the stand is set; `keep` takes over a recording that is cut off. */
function useBench(keep: () => void): void {
  const sensor = useSensor();
  const { lights, targets } = useProject();
  const stand = useAppSelector((state) => state.view.stand);
  const latest = useRef({ stand, keep });
  // A change of the stand goes to the stream that is there; only sensor, lights and targets need a new one.
  useEffect(() => {
    startLive(sensor, { lights, targets }, latest.current.stand);
    return () => {
      if (live.get().recording !== null) latest.current.keep();
      stopLive();
    };
  }, [sensor, lights, targets]);
  useEffect(() => {
    latest.current = { stand, keep };
    setStand(stand);
  }, [stand, keep]);
}

/** What ends a recording: it becomes a tape. */
function useRecorder() {
  const sensor = useSensor();
  const { lights } = useProject();
  const light = useAppSelector((state) => state.view.stand.light);
  const edits = useTapeEdits();
  const toggle = useCallback(() => {
    if (live.get().recording === null) return startRecording();
    const made = finishRecording();
    const name = `${sensor.name}, ${lights.find((l) => l.id === light)?.name.toLowerCase() ?? "bench"}`;
    if (made !== null) void edits.add("recording a tape", { ...made, name, sensor: sensor.id, origin: "bench" });
  }, [sensor, lights, light, edits]);
  return { wrong: edits.wrong, toggle };
}

/** R records; holding 1–9 marks meanwhile; F freezes the display. */
function useBenchKeys(toggle: () => void, order: readonly Target[]): void {
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || takesKeys(event.target)) return;
      const key = event.key.toLowerCase();
      const target = /^[1-9]$/.test(key) ? order[Number(key) - 1] : undefined;
      if (key === "r") toggle();
      else if (key === "f") freezeLive(!live.get().frozen);
      else if (target !== undefined && live.get().recording !== null) markLive(target.id);
      else return;
      event.preventDefault();
    };
    const up = (event: KeyboardEvent) => {
      const target = /^[1-9]$/.test(event.key) ? order[Number(event.key) - 1] : undefined;
      if (target !== undefined && live.get().recording?.marking === target.id) markLive(null);
    };
    const lost = () => markLive(null);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", lost);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", lost);
    };
  }, [toggle, order]);
}

function Recorder({ toggle, wrong }: { toggle: () => void; wrong: string | undefined }) {
  const { targets } = useProject();
  const recording = usePublishedPart(live, (l) => l.recording !== null);
  const marking = usePublishedPart(live, (l) => l.recording?.marking ?? null);
  const order = useMemo(() => inMarkOrder(targets), [targets]);
  useBenchKeys(toggle, order);
  return (
    <section aria-label="Recorder">
      <Head style={{ margin: "8px 0 2px" }}>
        <Button $main={!recording} onPress={toggle} aria-pressed={recording}>
          {recording ? "■ Stop and keep" : "● Record"}
        </Button>
        <Kbd>R</Kbd>
        <Spacer />
        {recording && <Elapsed />}
      </Head>
      <Dim style={{ fontSize: 11.5 }}>
        {recording
          ? "Hold a number key, or press and hold a target, for as long as it lies under the sensor."
          : "Records to a tape; hold 1–9 meanwhile to mark what lies under the sensor."}
      </Dim>
      <Marks>
        {order.map((target, i) => (
          <Hold
            key={target.id}
            isDisabled={!recording}
            aria-label={`Hold to mark ${target.name}`}
            aria-pressed={marking === target.id}
            style={marking === target.id ? { outline: "2px solid var(--ink)" } : undefined}
            onPressStart={() => markLive(target.id)}
            onPressEnd={() => markLive(null)}
          >
            {i < 9 && <Kbd>{i + 1}</Kbd>}
            <Chip target={target} />
          </Hold>
        ))}
      </Marks>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
    </section>
  );
}

function Elapsed() {
  const t = usePublishedPart(live, (l) => Math.floor((l.recording?.readings.t.at(-1) ?? 0) / 100) / 10);
  const n = usePublishedPart(live, (l) => l.recording?.readings.t.length ?? 0);
  return (
    <Num role="timer" aria-label="Recorded">
      {t.toFixed(1)} s · {n}
    </Num>
  );
}
