import { createHash } from "node:crypto";
import type { PackFrame } from "@perceptum/core/demo";
import { encodePng } from "@perceptum/core/png";

/** A frame as it stands in a project file. */
export const packFrame: PackFrame = (frame) => {
  const bytes = encodePng(frame);
  return {
    name: createHash("sha256").update(bytes).digest("hex"),
    png: Buffer.from(bytes).toString("base64"),
  };
};
