import { isCamera } from "@perceptum/core/readings";
import { markOfEach } from "@perceptum/core/teaching";
import { useCallback, useMemo } from "react";
import { useSettledProject } from "../hooks/project";
import { type SourceView, useSource } from "../hooks/source";
import { Canvas } from "../ui/Canvas";
import { lazily } from "../ui/lazily";
import { usePalette } from "../ui/themeChoice";
import { useSize } from "../ui/useSize";
import { FRAME_LANES, LanePen, lanesWith, MOST_OTHERS, Room, readingLanes } from "./LanePen";
import { useTapeWindow } from "./useTapeWindow";

const FrameLanes = lazily(() => import("./FrameLanes").then((m) => m.FrameLanes));

const RunLanes = lazily(() => import("./RunLanes").then((m) => m.RunLanes));

/**
 * The lanes of a tape, drawn in layers: what was read, what was made of it, which changes with every rule, and what was
 * done.
 */
export function Lanes() {
  const source = useSource();
  return source === null ? null : <LanesOf source={source} />;
}

function LanesOf({ source }: { source: SourceView }) {
  const { ref, width, height } = useSize<HTMLDivElement>();
  const palette = usePalette();
  const { targets } = useSettledProject();
  const { block, marks, length, spans, did, flips } = source;
  const framed = isCamera(source.sensor);
  // Frames leave no room for more rows; each sensor can be chosen.
  const others = useMemo(() => (framed ? [] : source.others.slice(0, MOST_OTHERS)), [framed, source.others]);
  const lanes = useMemo(() => lanesWith(others.length), [others.length]);
  // Names alone: each move of a drag changes what the sensors saw, and readings need not be drawn anew for it.
  const named = others.map((other) => other.name).join("\n");
  const part = useTapeWindow(source.source, length);
  const { tapes } = useSettledProject();
  const tape = tapes.find((t) => t.id === source.source);

  const markOf = useMemo(() => markOfEach(block, marks), [block, marks]);

  const drawReadings = useCallback(
    (context: CanvasRenderingContext2D) => {
      const pen = new LanePen(context, width, part, palette, lanes);
      pen.names(framed ? FRAME_LANES : readingLanes(lanes, named.split("\n")));
      if (!framed) pen.readings(block);
      pen.axis();
      pen.within(() => {
        for (const mark of marks)
          pen.truth(
            mark.from,
            mark.to,
            targets.find((t) => t.id === mark.target),
          );
      });
    },
    [block, marks, part, palette, targets, width, framed, lanes, named],
  );
  const drawAnswers = useCallback(
    (context: CanvasRenderingContext2D) => {
      const pen = new LanePen(context, width, part, palette, lanes);
      pen.within(() => {
        others.forEach(({ t, spans }, i) => {
          for (const { from, to, target } of spans)
            pen.saw(t[from], t[Math.min(to + 1, t.length - 1)], targets[target - 1], false, lanes.others[i]);
        });
        for (const { from, to, target } of spans) {
          const end = Math.min(to + 1, block.length - 1);
          const truth = marks[markOf[(from + to) >> 1] - 1]?.target;
          const seen = targets[target - 1];
          pen.saw(block.t[from], block.t[end], seen, truth !== undefined && truth !== seen?.id);
        }
      });
      for (const { from, to, target: kind } of flips)
        pen.flip(block.t[from], block.t[Math.min(to + 1, block.length - 1)], kind);
    },
    [block, marks, markOf, part, spans, flips, palette, targets, width, lanes, others],
  );
  const drawDone = useCallback(
    (context: CanvasRenderingContext2D) => {
      const pen = new LanePen(context, width, part, palette, lanes);
      pen.within(() => {
        did.forEach((span, i) => pen.did(span.from, span.to, span.text, did[i + 1]?.from ?? length));
      });
    },
    [length, part, did, palette, width, lanes],
  );
  return (
    <Room ref={ref}>
      <div style={{ position: "absolute" }}>
        <Canvas
          width={width}
          height={height}
          draw={drawReadings}
          label={`Readings of ${source.name}, with truth, what was seen and what was done`}
        />
      </div>
      {tape !== undefined && isCamera(source.sensor) && tape.frames !== undefined && (
        <div style={{ position: "absolute" }}>
          <FrameLanes tape={tape} sensor={source.sensor} source={source} part={part} width={width} />
        </div>
      )}
      {source.source === "run" && framed && (
        <div style={{ position: "absolute" }}>
          <RunLanes source={source} part={part} width={width} />
        </div>
      )}
      <div style={{ position: "absolute" }}>
        <Canvas width={width} height={height} draw={drawAnswers} />
      </div>
      <div style={{ position: "absolute" }}>
        <Canvas width={width} height={height} draw={drawDone} />
      </div>
    </Room>
  );
}
