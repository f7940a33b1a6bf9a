import type { Strip } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { isDark } from "../targets/Chip";
import type { Looked, ShownFrame } from "../workers/Vision";
import type { FrameLayout, Rect } from "./frameLayout";

const MONO = '"Atkinson Hyperlegible Mono Variable", monospace';
/** Lines of a mask's hatching lie so far apart, in CSS px. */
const HATCH = 5;

/** Draws on a frame as it lies on the screen. What is drawn is black with a white edge, so that it stands out anywhere. */
export class FramePen {
  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly laid: FrameLayout,
  ) {}

  /** The frame itself, each pixel a square. */
  frame({ width, height, data }: ShownFrame): void {
    const { context, laid } = this;
    const source = new OffscreenCanvas(width, height);
    source.getContext("2d")?.putImageData(new ImageData(data, width, height), 0, 0);
    context.imageSmoothingEnabled = false;
    context.drawImage(source, laid.left, laid.top, width * laid.scale, height * laid.scale);
  }

  private rect({ left, top, width, height }: Rect): [number, number, number, number] {
    const { laid } = this;
    return [laid.left + left * laid.scale, laid.top + top * laid.scale, width * laid.scale, height * laid.scale];
  }

  /** What does not count is veiled. */
  outside({ top, bottom, left, right }: Strip, frame: { width: number; height: number }): void {
    const { context } = this;
    context.fillStyle = "rgb(128 128 128 / 55%)";
    for (const rect of [
      { left: 0, top: 0, width: frame.width, height: top },
      { left: 0, top: bottom, width: frame.width, height: frame.height - bottom },
      { left: 0, top, width: left, height: bottom - top },
      { left: right, top, width: frame.width - right, height: bottom - top },
    ])
      if (rect.width > 0 && rect.height > 0) context.fillRect(...this.rect(rect));
  }

  /** The pixels of a mask, hatched. */
  mask(runs: Int32Array, frame: { width: number; height: number }): void {
    if (runs.length === 0) return;
    const { context, laid } = this;
    const shape = new Path2D();
    for (let i = 0; i < runs.length; i += 3)
      shape.rect(...this.rect({ left: runs[i + 1], top: runs[i], width: runs[i + 2] - runs[i + 1], height: 1 }));
    context.save();
    context.clip(shape);
    const [width, height] = [frame.width * laid.scale, frame.height * laid.scale];
    const lines = new Path2D();
    for (let x = -height; x < width; x += HATCH) {
      lines.moveTo(laid.left + x, laid.top + height);
      lines.lineTo(laid.left + x + height, laid.top);
    }
    context.lineWidth = 2.2;
    context.strokeStyle = "rgb(255 255 255 / 85%)";
    context.stroke(lines);
    context.lineWidth = 1;
    context.strokeStyle = "rgb(0 0 0 / 90%)";
    context.stroke(lines);
    context.restore();
  }

  private outline(rect: Rect, dashed: boolean, heavy: boolean): void {
    const { context } = this;
    const [x, y, width, height] = this.rect(rect);
    context.lineWidth = heavy ? 4 : 3;
    context.strokeStyle = "rgb(255 255 255 / 85%)";
    context.strokeRect(x, y, width, height);
    context.lineWidth = heavy ? 2 : 1;
    context.strokeStyle = "#000";
    if (dashed) context.setLineDash([4, 3]);
    context.strokeRect(x, y, width, height);
    context.setLineDash([]);
  }

  /** A tag with a target's code and a text, above a rectangle or below it where there is no room. */
  private tag(rect: Rect, target: Target | undefined, text: string, below: boolean): void {
    const { context, laid } = this;
    const [x, y, , height] = this.rect(rect);
    context.font = `700 10px ${MONO}`;
    const code = target?.code ?? "";
    const codeWidth = context.measureText(code).width + 6;
    const width = codeWidth + (text === "" ? 0 : context.measureText(text).width + 6);
    const down = below || y - 14 < laid.top - 2;
    const top = down ? y + height + 1 : y - 14;
    context.fillStyle = "#fff";
    context.fillRect(x - 1, top, width + 1, 13);
    context.fillStyle = target?.paint ?? "#888";
    context.fillRect(x, top + 1, codeWidth, 11);
    context.fillStyle = target !== undefined && isDark(target.paint) ? "#fff" : "#000";
    context.textAlign = "left";
    context.fillText(code, x + 3, top + 10);
    context.fillStyle = "#000";
    if (text !== "") context.fillText(text, x + codeWidth + 3, top + 10);
  }

  /** Thin boxes around blobs, the largest of each target with its size. */
  blobs({ blobs }: Looked, targets: readonly Target[]): void {
    for (const { target: id, found } of blobs) {
      const target = targets.find((t) => t.id === id);
      for (const blob of found.slice(1)) this.outline(blob, false, false);
      const [first] = found;
      this.outline(first, false, false);
      this.tag(first, target, `${first.width} × ${first.height}`, false);
    }
  }

  /** What is boxed on it, dashed; the chosen one is heavy. */
  boxes(boxes: readonly (Rect & { target: string })[], targets: readonly Target[], chosen: number): void {
    boxes.forEach((box, i) => {
      this.outline(box, true, i === chosen);
      this.tag(
        box,
        targets.find((t) => t.id === box.target),
        "",
        true,
      );
    });
  }

  /** What is being drawn. */
  fresh(rect: Rect): void {
    this.outline(rect, true, true);
  }
}
