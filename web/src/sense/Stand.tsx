import type { Target } from "@perceptum/core/rules";
import { STAND_LIMITS, type Under } from "@perceptum/core/world";
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { targetsFirst, useProject, useSensor } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublishedPart } from "../hooks/usePublished";
import { StandStream } from "../model/live/StandStream";
import { standSet } from "../model/store/sense";
import { Chip } from "../targets/Chip";
import { Button } from "../ui/Button";
import { Dim, Head, Kbd, KeyHint, Num, Spacer, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { RangeField } from "../ui/RangeField";
import { Select } from "../ui/Select";
import { singleKeysWork } from "../ui/singleKeys";
import { takesKeys } from "../ui/takesKeys";

const LightsSheet = lazily(() => import("../lights/LightsSheet").then((m) => m.LightsSheet));

const HeightSweepSheet = lazily(() => import("./HeightSweepSheet").then((m) => m.HeightSweepSheet));

const Row = styled.div`
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
  useBench();
  const { targets, lights } = useProject();
  const stand = useAppSelector((state) => state.sense.stand);
  const dispatch = useAppDispatch();
  const [sweeping, setSweeping] = useState(false);
  const [lighting, setLighting] = useState(false);
  const things: { id: Under; text: string }[] = [
    ...targetsFirst(targets).map((t) => ({ id: t.id as Under, text: t.name })),
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
      <Row>
        <span>under it</span>
        <Select
          label="Under the sensor"
          hideLabel
          value={stand.under}
          options={things}
          onChange={(under) => dispatch(standSet({ under }))}
        />
      </Row>
      <Row>
        <span>next to</span>
        <Select<Under | "none">
          label="Next to"
          hideLabel
          value={stand.beside ?? "none"}
          options={[{ id: "none", text: "no edge" }, ...things]}
          onChange={(id) => dispatch(standSet({ beside: id === "none" ? null : id }))}
        />
      </Row>
      {stand.beside !== null && (
        <RangeField
          label="share of the spot"
          value={stand.share}
          min={STAND_LIMITS.share[0]}
          max={STAND_LIMITS.share[1]}
          step={0.05}
          unit="%"
          shown={(v) => String(Math.round(v * 100))}
          onChange={(share) => dispatch(standSet({ share }))}
        />
      )}
      <Row>
        <span>light</span>
        <Select
          label="Light on the bench"
          hideLabel
          value={stand.light as string | null}
          options={lights.map((l) => ({ id: l.id as string, text: l.name }))}
          onChange={(id) => dispatch(standSet({ light: id as typeof stand.light }))}
        />
      </Row>
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
      <Recorder />
      {lighting && <LightsSheet onClose={() => setLighting(false)} />}
      {sweeping && <HeightSweepSheet onClose={() => setSweeping(false)} />}
    </section>
  );
}

/** Keeps the bench streaming while it is watched, as the stand is set; a recording that is cut off becomes a tape. */
function useBench(): void {
  const session = useSession();
  const sensor = useSensor();
  const { lights, targets } = useProject();
  const stand = useAppSelector((state) => state.sense.stand);
  const latest = useRef(stand);
  const stream = useRef<StandStream | null>(null);
  // A change of the stand goes to the stream that is there; only sensor, lights and targets need a new one.
  useEffect(() => {
    stream.current = session.bench.start((live) => new StandStream(sensor, { lights, targets }, latest.current, live));
    return () => {
      session.keepRecording();
      session.bench.stop();
    };
  }, [session, sensor, lights, targets]);
  useEffect(() => {
    latest.current = stand;
    stream.current?.set(stand);
  }, [session, stand]);
}

/** R records; holding 1–9 marks meanwhile, in the order in which targets were made: a new one takes no other’s key. */
function useBenchKeys(order: readonly Target[]): void {
  const session = useSession();
  useEffect(() => {
    const { bench } = session;
    const down = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || takesKeys(event.target)) return;
      if (!singleKeysWork()) return;
      const key = event.key.toLowerCase();
      const target = /^[1-9]$/.test(key) ? order[Number(key) - 1] : undefined;
      if (key === "r") session.toggleRecording();
      else if (key === "f") bench.freeze(!bench.live.get().frozen);
      else if (target !== undefined && bench.isRecording) bench.mark(target.id);
      else return;
      event.preventDefault();
    };
    const up = (event: KeyboardEvent) => {
      const target = /^[1-9]$/.test(event.key) ? order[Number(event.key) - 1] : undefined;
      if (target !== undefined && bench.live.get().recording?.marking === target.id) bench.mark(null);
    };
    const lost = () => bench.mark(null);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", lost);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", lost);
    };
  }, [session, order]);
}

/** Records what streams, and marks it meanwhile. */
export function Recorder() {
  const session = useSession();
  const { bench } = session;
  const { targets } = useProject();
  const recording = usePublishedPart(bench.live, (l) => l.recording !== null);
  const marking = usePublishedPart(bench.live, (l) => l.recording?.marking ?? null);
  useBenchKeys(targets);
  return (
    <section aria-label="Recorder">
      <Head style={{ margin: "8px 0 2px" }}>
        <Button $main={!recording} onPress={() => session.toggleRecording()} aria-pressed={recording}>
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
        {targets.map((target, i) => (
          <Hold
            key={target.id}
            isDisabled={!recording}
            aria-label={`Hold to mark ${target.name}, ${target.code}`}
            aria-pressed={marking === target.id}
            style={marking === target.id ? { outline: "2px solid var(--ink)" } : undefined}
            onPressStart={() => bench.mark(target.id)}
            onPressEnd={() => bench.mark(null)}
          >
            {i < 9 && <KeyHint data-key={i + 1} />}
            <Chip target={target} />
          </Hold>
        ))}
      </Marks>
    </section>
  );
}

function Elapsed() {
  const { bench } = useSession();
  const t = usePublishedPart(bench.live, (l) => Math.floor((l.recording?.readings.t.at(-1) ?? 0) / 100) / 10);
  const n = usePublishedPart(bench.live, (l) => l.recording?.count ?? 0);
  return (
    <Num role="timer" aria-label="Recorded">
      {t.toFixed(1)} s · {n}
    </Num>
  );
}
