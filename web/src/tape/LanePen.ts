import type { Target } from "@perceptum/core/rules";
import { FLIP } from "@perceptum/core/teaching";
import styled from "styled-components";
import type { SourceView } from "../hooks/source";
import { isDark } from "../targets/Chip";
import { colourOf, cssColour } from "../ui/cssColour";
import type { Palette } from "../ui/theme";
import { timeTicks } from "./timeTicks";
import type { TapeWindow } from "./useTapeWindow";

/** A tick of the time with its text takes so many px. */
const TICK_ROOM = 48;
/** Pixels left of time 0 and right of the end. */
export const LANES_LEFT = 66;

export const LANES_RIGHT = 14;

export const Room = styled.div`
  position: absolute;
  inset: 0;
`;

const MONO = '"Atkinson Hyperlegible Mono Variable", monospace';

const SANS = '"Atkinson Hyperlegible Next Variable", sans-serif';

type Lane = readonly [top: number, bottom: number];

/** Where each lane lies, from the top. */
export const LANE = {
  reading: [6, 28] as Lane,
  features: [34, 68] as Lane,
  truth: [74, 86] as Lane,
  saw: [90, 104] as Lane,
  did: [108, 123] as Lane,
  axis: 130,
};

/** The most sensors beside the chosen one that have a row of what they saw. */
export const MOST_OTHERS = 2;
/** The height of such a row, with what parts it from the next. */
const ROW = 14;

/** The lanes where other sensors have rows below the first one's; what was read makes room for them. */
export function lanesWith(others: number): typeof LANE & { others: Lane[] } {
  const down = others * ROW;
  const { reading, features, truth, saw, did, axis } = LANE;
  const up = ([top, bottom]: Lane): Lane => [top - down, bottom - down];
  return {
    reading: [reading[0], reading[1] - (others > 1 ? 6 : 0)],
    features: [features[0] - (others > 1 ? 6 : 0), features[1] - down],
    truth: up(truth),
    saw: up(saw),
    others: Array.from(
      { length: others },
      (_, i): Lane => [saw[0] - down + (i + 1) * ROW, saw[1] - down + (i + 1) * ROW - 1],
    ),
    did,
    axis,
  };
}

/** A stretch of fewer pixels is drawn without frame and text. */
const FRAMED = 4;

type Names = readonly (readonly [name: string, lane: Lane])[];

/** Names the lanes of readings, the other sensors' by their names. */
export const readingLanes = (lanes: ReturnType<typeof lanesWith>, others: readonly string[]): Names => [
  ["reading", lanes.reading],
  ["sat, val", lanes.features],
  ["truth", lanes.truth],
  ["saw", lanes.saw],
  ...lanes.others.map((lane, i): [string, Lane] => [others[i], lane]),
  ["did", lanes.did],
];
export const FRAME_LANES: Names = [
  ["frames", LANE.reading],
  ["saw", LANE.features],
  ["truth", LANE.truth],
  ["boxes", LANE.saw],
  ["did", LANE.did],
];

/** Draws on lanes: knows where a time lies and how each lane looks. */
export class LanePen {
  private readonly span: number;
  constructor(
    private readonly context: CanvasRenderingContext2D,
    width: number,
    private readonly part: TapeWindow,
    private readonly palette: Palette,
    private readonly lanes: typeof LANE = LANE,
  ) {
    this.span = width - LANES_LEFT - LANES_RIGHT;
  }

  /** Where a time lies, held a little outside the part that is shown. */
  private x(t: number): number {
    const { from, to } = this.part;
    const share = to === from ? 0 : (t - from) / (to - from);
    return LANES_LEFT + Math.max(-0.01, Math.min(1.01, share)) * this.span;
  }

  /** Draws only where the lanes are, not over their names. */
  within(paint: () => void): void {
    const { context } = this;
    context.save();
    context.beginPath();
    context.rect(LANES_LEFT, 0, this.span + 1, 200);
    context.clip();
    paint();
    context.restore();
  }

  private hidden(from: number, to: number): boolean {
    return to < this.part.from || from > this.part.to;
  }

  names(lanes: Names): void {
    const { context, palette } = this;
    context.font = `10px ${SANS}`;
    context.fillStyle = palette.ink2;
    context.textAlign = "right";
    for (const [name, [top, bottom]] of lanes)
      context.fillText(this.cut(name, LANES_LEFT - 14), LANES_LEFT - 10, (top + bottom) / 2 + 3.5);
  }

  /** Each pixel column shows the mean colour of its readings, and the range of sat and val in them. */
  readings(block: SourceView["block"]): void {
    const { context, palette } = this;
    const coloured = block.features.includes("val");
    const paint = colourOf(block);
    const other = block.features.includes("reflected") ? "reflected" : "val";
    const [r, g, b, sat, val] = (["r", "g", "b", "sat", other] as const).map((f) => block.column(f));
    const [top, bottom] = this.lanes.reading;
    const [high, low] = this.lanes.features;
    const lines = { sat: new Path2D(), val: new Path2D() };
    const y = (v: number) => low - Math.max(0, Math.min(1, v)) * (low - high);
    const length = this.part.to - this.part.from;
    let i = block.indexAt(this.part.from);
    if (i >= 0 && block.t[i] < this.part.from) i++;
    const last = block.indexAt(this.part.to);
    const count = Math.max(1, last - i + 1);
    let begun = false;
    for (let px = 0; px < this.span && i >= 0 && i <= last; px++) {
      const until = this.part.from + ((px + 1) / this.span) * length;
      let n = 0;
      const sum = [0, 0, 0];
      const range = { sat: [1, 0], val: [1, 0] };
      for (; i <= last && (block.t[i] < until || px === this.span - 1); i++, n++) {
        sum[0] += r[i];
        sum[1] += g[i];
        sum[2] += b[i];
        if (sat[i] < range.sat[0]) range.sat[0] = sat[i];
        if (sat[i] > range.sat[1]) range.sat[1] = sat[i];
        if (val[i] < range.val[0]) range.val[0] = val[i];
        if (val[i] > range.val[1]) range.val[1] = val[i];
      }
      if (n === 0) continue;
      const x = LANES_LEFT + px;
      context.fillStyle = coloured ? cssColour(sum[0] / n, sum[1] / n, sum[2] / n) : paint(i - 1);
      context.fillRect(x, top, Math.max(1.2, this.span / count + 0.5), bottom - top);
      for (const name of ["sat", "val"] as const) {
        const [least, most] = range[name];
        if (least > most) continue;
        lines[name][begun ? "lineTo" : "moveTo"](x, y(least));
        lines[name].lineTo(x, y(most));
      }
      begun = true;
    }
    context.lineWidth = 1;
    context.strokeStyle = palette.ink3;
    context.setLineDash([2, 1.5]);
    context.stroke(lines.val);
    context.setLineDash([]);
    context.strokeStyle = palette.ink;
    context.stroke(lines.sat);
  }

  axis(): void {
    const { context, palette } = this;
    context.font = `9.5px ${MONO}`;
    context.textAlign = "left";
    for (const { t, text } of timeTicks(
      this.part.from,
      this.part.to,
      Math.min(12, Math.floor(this.span / TICK_ROOM)),
    )) {
      const x = this.x(t);
      context.fillStyle = palette.rule;
      context.fillRect(x, LANE.axis - 2, 1, 5);
      if (x > LANES_LEFT + this.span - 26) continue;
      context.fillStyle = palette.ink3;
      context.fillText(text, x + 3, LANE.axis + 9);
    }
  }

  truth(from: number, to: number, target: Target | undefined): void {
    if (this.hidden(from, to)) return;
    const [top, bottom] = this.lanes.truth;
    const { context, palette } = this;
    const x = this.x(from);
    const width = this.x(to) - x;
    context.strokeStyle = palette.ink3;
    context.lineWidth = 1;
    if (target?.kind !== "background") context.strokeRect(x + 0.5, top + 0.5, Math.max(1, width), bottom - top - 1);
    this.text(target?.code ?? "", x + 3, bottom - 3, width - 4, `9px ${MONO}`, palette.ink2);
  }

  /** What was seen; taken for something else than it was, it stands in a heavy frame. */
  saw(from: number, to: number, target: Target | undefined, wrong: boolean, lane: Lane = this.lanes.saw): void {
    if (this.hidden(from, to)) return;
    const [top, bottom] = lane;
    const { context, palette } = this;
    const x = this.x(from);
    const width = Math.max(1.5, this.x(to) - x);
    context.fillStyle = target?.paint ?? palette.ink3;
    context.fillRect(x, top, width, bottom - top);
    // Too narrow for a frame: a wrong one gets a heavy foot instead.
    if (width < FRAMED) {
      if (wrong) {
        context.fillStyle = palette.ink;
        context.fillRect(x, bottom - 3, width, 4);
      }
      return;
    }
    context.strokeStyle = wrong ? palette.ink : "rgb(0 0 0 / 40%)";
    context.lineWidth = wrong ? 2.5 : 1;
    context.strokeRect(x, top, width, bottom - top);
    if (target)
      this.text(target.code, x + 4, bottom - 3.5, width - 5, `700 9px ${MONO}`, isDark(target.paint) ? "#fff" : "#000");
  }

  /** Where labels flipped against the rules that are kept: filled below for lost, hollow for gained, a line for the rest. */
  flip(from: number, to: number, kind: number): void {
    if (this.hidden(from, to)) return;
    const { context, palette } = this;
    const x = this.x(from);
    const width = Math.max(2, this.x(to) - x);
    const [top, height] = [this.lanes.saw[1] + 0.5, 3];
    context.fillStyle = palette.ink;
    context.strokeStyle = palette.ink;
    context.lineWidth = 1;
    if (kind === FLIP.lost) context.fillRect(x, top, width, height);
    else if (kind === FLIP.gained) context.strokeRect(x + 0.5, top + 0.5, Math.max(1.5, width - 1), height - 1);
    else context.fillRect(x, top + 1, width, 1);
  }

  /** What was done; the words may run on to where the next thing is done. */
  did(from: number, to: number, text: string, next: number): void {
    if (this.hidden(from, to)) return;
    const [top, bottom] = this.lanes.did;
    const { context, palette } = this;
    const x = this.x(from);
    const width = Math.max(1.5, this.x(to) - x);
    context.fillStyle = palette.panel;
    context.fillRect(x, top, width, bottom - top);
    context.strokeStyle = palette.ink3;
    context.lineWidth = 1;
    context.strokeRect(x + 0.5, top + 0.5, width, bottom - top - 1);
    const beside = width < 60;
    this.text(
      text,
      x + (beside ? width + 3 : 4),
      bottom - 4,
      beside ? this.x(next) - x - width - 6 : width - 6,
      `10px ${SANS}`,
      palette.ink,
    );
  }

  /** Text cut to what fits, with an ellipsis; nothing where not even three letters do. */
  private text(text: string, x: number, y: number, room: number, font: string, colour: string): void {
    const { context } = this;
    context.font = font;
    context.fillStyle = colour;
    context.textAlign = "left";
    if (room < 8) return;
    const shown = this.cut(text, room);
    if (context.measureText(shown).width <= room) context.fillText(shown, x, y);
  }

  /** A text's beginning that fits, with an ellipsis; two letters at least. */
  private cut(text: string, room: number): string {
    const { context } = this;
    let shown = text;
    while (shown.length > 2 && context.measureText(shown === text ? text : `${shown}…`).width > room)
      shown = shown.slice(0, -1);
    return shown === text ? text : `${shown}…`;
  }
}
