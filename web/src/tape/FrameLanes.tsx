import type { ProjectDocument } from "@perceptum/core/project";
import type { CameraSensor, TapeHead } from "@perceptum/core/readings";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useSetup } from "../camera/useFrame";
import { useSession } from "../hooks/context";
import { useSettledProject } from "../hooks/project";
import type { SourceView } from "../hooks/source";
import { usePublished } from "../hooks/usePublished";
import { CameraWork } from "../model/camera/CameraWork";
import { Canvas } from "../ui/Canvas";
import { usePalette } from "../ui/themeChoice";
import { LANE, LANES_LEFT, LANES_RIGHT } from "./LanePen";
import type { TapeWindow } from "./useTapeWindow";

/** A thumbnail is so many px high. */
const THUMB = LANE.reading[1] - LANE.reading[0];
/** What is seen is worked out anew once rules have rested for so long, in ms. */
const REST_MS = 250;

/** The lanes that only a camera's tape has: small frames, and a row for each target of when it is seen. */
export function FrameLanes(props: {
  tape: Pick<TapeHead, "id" | "name" | "frames" | "boxes">;
  sensor: CameraSensor;
  source: SourceView;
  part: TapeWindow;
  width: number;
  /** The project that they are of, and what is seen in them, where that is known: of a run. */
  made?: { project: Pick<ProjectDocument, "ruleSets" | "targets">; rows: Uint8Array };
}) {
  const { tape, sensor, source, part, width, made } = props;
  const now = useSettledProject();
  const project = made?.project ?? now;
  const session = useSession();
  const work = session.service(CameraWork);
  const palette = usePalette();
  const seen = usePublished(work.seen);
  const setup = useSetup(sensor, project.ruleSets, project.targets);
  const { t } = source.block;
  const span = width - LANES_LEFT - LANES_RIGHT;
  const x = useCallback(
    (time: number) => LANES_LEFT + (part.to === part.from ? 0 : ((time - part.from) / (part.to - part.from)) * span),
    [part, span],
  );
  const isMade = made !== undefined;
  const thumbWidth = Math.max(8, Math.round((THUMB * sensor.frame.width) / sensor.frame.height));

  /** The frames of which there is room for a thumbnail. */
  const shown = useMemo(() => {
    const places: { at: number; left: number }[] = [];
    let free = LANES_LEFT;
    for (let k = 0; k < t.length; k++) {
      if (t[k] < part.from || t[k] > part.to) continue;
      const left = Math.min(x(t[k]), LANES_LEFT + span - thumbWidth);
      if (left < free - 0.5) continue;
      places.push({ at: k, left });
      free = left + thumbWidth + 1;
    }
    return places;
  }, [t, part, x, span, thumbWidth]);

  const [thumbs, setThumbs] = useState<ReadonlyMap<string, ImageBitmap>>(new Map());
  useEffect(() => {
    let wanted = true;
    const fetching = async () => {
      for (const { at } of shown) {
        const name = tape.frames?.[at];
        if (!wanted || name === undefined) return;
        const bitmap = await work.thumb(name, THUMB * 2, setup);
        if (wanted) setThumbs((all) => new Map(all).set(name, bitmap));
      }
    };
    fetching().catch(session.failed("The small frames cannot be shown"));
    return () => {
      wanted = false;
    };
    // The rules do not matter for them.
  }, [session, work, shown, tape.frames, setup.sensor]);
  useEffect(() => {
    if (isMade) return;
    const timer = setTimeout(() => {
      work.follow(tape, t, setup).catch(session.failed("What is seen on the tape could not be worked out"));
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [session, work, tape, t, setup, isMade]);

  const followed = seen?.tape === tape.id ? seen : null;
  const known = made?.rows;
  const rows = useMemo(
    () => (known === undefined ? followed : { rows: known, done: t.length }),
    [known, followed, t.length],
  );
  const draw = useCallback(
    (context: CanvasRenderingContext2D) => {
      for (const { at, left } of shown) {
        const bitmap = thumbs.get(tape.frames?.[at] ?? "");
        if (bitmap !== undefined) context.drawImage(bitmap, left, LANE.reading[0], thumbWidth, THUMB);
        context.strokeStyle = palette.rule;
        context.lineWidth = 1;
        context.strokeRect(left + 0.5, LANE.reading[0] + 0.5, thumbWidth - 1, THUMB - 1);
      }
      const side = project.targets.length;
      const lanes = project.targets.flatMap((target, i) => (target.kind === "background" ? [] : [{ target, i }]));
      const [top, bottom] = [LANE.features[0], LANE.features[1]];
      const high = Math.min(11, (bottom - top) / Math.max(1, lanes.length));
      lanes.forEach(({ target, i }, lane) => {
        const y = top + lane * high;
        context.fillStyle = palette.ruleSoft;
        context.fillRect(LANES_LEFT, y + high / 2, span, 1);
        if (rows === null || rows.rows.length !== t.length * side) return;
        for (let k = 0; k < rows.done; k++) {
          if (rows.rows[k * side + i] === 0) continue;
          // Frames in a row are one stretch.
          let last = k;
          while (last + 1 < rows.done && rows.rows[(last + 1) * side + i] !== 0) last++;
          const [from, to] = [x(t[k]), x(t[last + 1] ?? t[last] + sensor.periodMs)];
          k = last;
          if (to < LANES_LEFT || from > LANES_LEFT + span) continue;
          const left = Math.max(LANES_LEFT, from);
          context.fillStyle = target.paint;
          context.fillRect(left, y + 1, Math.max(2, Math.min(to, LANES_LEFT + span) - left), high - 2);
          context.fillStyle = "rgb(0 0 0 / 40%)";
          context.fillRect(left, y + high - 1.5, Math.max(2, Math.min(to, LANES_LEFT + span) - left), 0.5);
        }
      });
      // Each box as a tick of its target's paint.
      const [low] = LANE.saw;
      for (const box of tape.boxes ?? []) {
        if (box.t < part.from || box.t > part.to) continue;
        const target = project.targets.find((one) => one.id === box.target);
        const own = project.targets.indexOf(target as never);
        const left = Math.min(x(box.t) + 5 * (own % 6), LANES_LEFT + span - 4);
        context.fillStyle = target?.paint ?? palette.ink3;
        context.fillRect(left, low + 2, 4, 10);
        context.strokeStyle = "rgb(0 0 0 / 50%)";
        context.strokeRect(left, low + 2, 4, 10);
      }
    },
    [shown, thumbs, rows, tape, project.targets, part, x, span, t, thumbWidth, palette, sensor.periodMs],
  );
  return <Canvas width={width} height={200} draw={draw} label={`Frames of ${tape.name}, and what is seen in them`} />;
}
