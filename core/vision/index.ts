export { BlobList, type FoundBlob } from "./BlobList";
export * from "./blob";
export * from "./boxPixels";
export { FrameEye, type Watching } from "./FrameEye";
export * from "./frame";
export * from "./frameFacts";
export { type FrameScore, frameScore } from "./frameScore";
export { type ColourRules, colourRules, type LabelOfColour, PixelLabels, pixelLabelsOf } from "./PixelLabels";
export { Sights } from "./sights";
