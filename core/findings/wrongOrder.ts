import {
  CHANNEL_FACTS,
  isCamera,
  REPORT_KINDS,
  ReadingBlock,
  type Sensor,
  USUAL_SCALES,
  WIRE_ORDERS,
} from "../readings";
import { classifyBlock, ruleSetOf } from "../rules";
import { isRight, type MarkedTape } from "../teaching";
import type { Finding, FindingKind, FindingScene } from "./finding";

/** Below this share judged rightly something other than a band is wrong; another reading must reach so much. */
const POOR = 0.6;
const GOOD = 0.9;

/** Colours come in another order, or on another scale, than the sensor is set to: read otherwise, the marks fit. */
export const wrongOrder: FindingKind = {
  code: "wrong-order",
  find(scene) {
    const { project } = scene;
    return project.sensors.flatMap((sensor): Finding[] => {
      const own = scene.tapes.filter((tape) => tape.sensor.id === sensor.id);
      const kind = REPORT_KINDS.get(sensor.reports);
      if (own.length === 0 || kind.coded) return [];
      const now = shareRight(scene, own, sensor);
      if (now === undefined || now >= POOR) return [];
      const tried: { words: string; label: string; sensor: Sensor }[] = [];
      if (kind.ordered)
        for (const { id: order, text } of WIRE_ORDERS)
          if (order !== (sensor.order ?? "rgb"))
            tried.push({ words: `the colours as ${text}`, label: `Read ${text}`, sensor: { ...sensor, order } });
      if (sensor.reference === undefined && !isCamera(sensor))
        for (const end of USUAL_SCALES) {
          const scale = Object.fromEntries(
            kind.channels.map((c) => [c, CHANNEL_FACTS[c].goesRound ? sensor.scale[c] : [0, end]]),
          ) as Sensor["scale"];
          tried.push({ words: `a scale of 0 to ${end}`, label: `Scale 0 to ${end}`, sensor: { ...sensor, scale } });
        }
      const best = tried
        .map((t) => ({ ...t, share: shareRight(scene, own, t.sensor) ?? 0 }))
        .reduce((a, b) => (b.share > a.share ? b : a), { words: "", label: "", sensor, share: 0 });
      if (best.share < GOOD) return [];
      const percent = (x: number) => `${Math.round(x * 100)} %`;
      return [
        {
          code: isCamera(sensor) ? "order-looks-swapped" : "wrong-order",
          level: "error",
          title: `${sensor.name} seems to be read wrongly`,
          sentence: `${percent(now)} of its marked readings are judged rightly; with ${best.words} it is ${percent(best.share)}. So it is probably not the rules that are wrong.`,
          place: { stage: "sense", about: sensor.id },
          fix: {
            label: best.label,
            change:
              best.sensor.order !== sensor.order
                ? { sensor: sensor.id, order: best.sensor.order ?? "rgb" }
                : { sensor: sensor.id, scale: best.sensor.scale },
          },
        },
      ];
    });
  },
};

/** So many readings of each tape are enough to tell. */
const ENOUGH = 1500;

/** The share of marked readings of targets that are judged rightly when they are read as a sensor says. */
function shareRight({ project }: FindingScene, tapes: readonly MarkedTape[], sensor: Sensor): number | undefined {
  const ids = project.targets.map((t) => t.id);
  const set = ruleSetOf(project, sensor);
  let [n, right] = [0, 0];
  for (const { raw, truth } of tapes) {
    const every = Math.max(1, Math.floor(truth.length / ENOUGH));
    const picked = Array.from(truth.keys()).filter((i) => truth[i] > 0 && i % every === 0);
    const part = {
      t: Float64Array.from(picked, (i) => raw.t[i]),
      channels: Object.fromEntries(
        Object.entries(raw.channels).map(([c, column]) => [c, Float64Array.from(picked, (i) => column[i])]),
      ),
    };
    const labels = classifyBlock(set, new ReadingBlock(part, sensor), ids);
    picked.forEach((i, k) => {
      if (project.targets[truth[i] - 1].kind === "background") return;
      n++;
      if (isRight(project.targets, truth[i], labels[k])) right++;
    });
  }
  return n === 0 ? undefined : right / n;
}
