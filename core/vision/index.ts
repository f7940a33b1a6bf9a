export { type Clean, MOST_CLEAN } from "./BitMask";
export { BlobList, type FoundBlob } from "./BlobList";
export { FrameEye, type Watching } from "./FrameEye";
export * from "./frame";
export { type LabelOfColour, PixelLabels, pixelLabelsOf } from "./PixelLabels";
