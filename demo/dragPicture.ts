import { writeFileSync } from "node:fs";

/** Who works at a step of a drag. */
const LANES = ["hand", "page", "judge's worker", "screen"] as const;

/** The way of one move of a drag, from the left; `from` and `to` in steps. A test holds that its files are there. */
export const WAY: readonly { lane: (typeof LANES)[number]; from: number; to: number; words: string; file: string }[] = [
  { lane: "hand", from: 0, to: 1, words: "pointer moves", file: "ui/usePointerDrag.ts" },
  { lane: "page", from: 1, to: 2, words: "session.do", file: "model/session/ProjectSession.ts" },
  { lane: "page", from: 2, to: 3, words: "edited, held", file: "model/store/document.ts" },
  { lane: "page", from: 3, to: 4, words: "judging.notice", file: "model/judging/Judging.ts" },
  { lane: "judge's worker", from: 4, to: 6, words: "judge what changed", file: "workers/Judge.ts" },
  { lane: "page", from: 4, to: 5, words: "ahead: a frame", file: "camera/useFrame.ts" },
  { lane: "page", from: 6, to: 7, words: "drawHeld", file: "model/store/HeldDrawing.ts" },
  { lane: "page", from: 7, to: 8, words: "React draws", file: "ui/Canvas.tsx" },
  { lane: "screen", from: 8, to: 9, words: "one picture", file: "" },
];

const [LEFT, TOP, STEP, HIGH] = [110, 34, 112, 62];
const WIDTH = LEFT + 9 * STEP + 16;
const HEIGHT = TOP + LANES.length * HIGH + 10;

/** Draws the way as an SVG, in ink alone. */
export function dragPicture(): string {
  const y = (lane: (typeof LANES)[number]) => TOP + LANES.indexOf(lane) * HIGH;
  const lanes = LANES.map(
    (lane) =>
      `<line x1="${LEFT}" x2="${WIDTH - 10}" y1="${y(lane) + HIGH - 6}" y2="${y(lane) + HIGH - 6}" stroke="#c9c9c9"/>` +
      `<text x="10" y="${y(lane) + 30}">${lane}</text>`,
  );
  const boxes = WAY.map(({ lane, from, to, words, file }) => {
    const [x, wide] = [LEFT + from * STEP, (to - from) * STEP - 6];
    const name = file.split("/").at(-1);
    return (
      `<rect x="${x}" y="${y(lane) + 6}" width="${wide}" height="42" rx="3" fill="#fff" stroke="#222"/>` +
      `<text x="${x + 7}" y="${y(lane) + 24}">${words}</text>` +
      `<text x="${x + 7}" y="${y(lane) + 40}" fill="#555" font-size="10">${name}</text>`
    );
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}" viewBox="0 0 ${WIDTH} ${HEIGHT}" font-family="sans-serif" font-size="12" fill="#222">
<title>One move of a drag, from the hand to the screen</title>
<rect width="${WIDTH}" height="${HEIGHT}" fill="#f4f4f4"/>
<text x="${LEFT}" y="20" fill="#555">one move of a drag, from the hand to the screen →</text>
${[...lanes, ...boxes].join("\n")}
</svg>
`;
}

if (process.argv[1]?.endsWith("dragPicture.ts"))
  writeFileSync(new URL("../docs/drag.svg", import.meta.url), dragPicture());
