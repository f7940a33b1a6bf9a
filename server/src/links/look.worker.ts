import { parentPort } from "node:worker_threads";
import { Watch } from "@perceptum/core/vision";
import { frameOf, sizeOfPicture } from "@perceptum/wires";
import { expose } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter";
import type { LookSetup, LookWorker, Picture } from "./Looks";

let looking: { setup: LookSetup; watch: Watch } | null = null;

/** Makes the line that a camera would say of its picture. @throws RangeError with a sentence */
function lineOf({ type, bytes }: Picture): string {
  if (looking === null) throw new RangeError("the robot has no camera");
  const { sensor } = looking.setup;
  const { width, height } = sensor.frame;
  if (type === "image/webp") throw new RangeError("only PNG and JPEG can be looked at here");
  // Its head tells the size: what does not fit is not unpacked.
  const size = sizeOfPicture(bytes);
  if (size !== undefined && (size.width !== width || size.height !== height))
    throw new RangeError(`it has ${size.width} × ${size.height} px, the frames of ${sensor.name} ${width} × ${height}`);
  const found = [...looking.watch.look(frameOf(bytes))].map(([target, { x, y, width, height, area }]) => [
    target,
    [x - (width - 1) / 2, y - (height - 1) / 2, width, height, area],
  ]);
  return JSON.stringify({ s: sensor.id, blobs: Object.fromEntries(found) });
}

const looks: LookWorker = {
  setSetup(setup) {
    looking = { setup, watch: new Watch(setup.sensor, setup.ruleSet, setup.targets) };
  },
  look(picture) {
    try {
      return { line: lineOf(picture) };
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      return { wrong: error.message };
    }
  },
};

if (parentPort !== null) expose(looks, nodeEndpoint(parentPort));
