import { describe, expect, it } from "vitest";
import { guessPlan, guessScales, lookAt, openTable, readReadings, readTable, type Table } from ".";

function table(text: string): Table {
  const opened = openTable(text);
  if ("error" in opened) throw new Error(opened.error);
  return opened;
}
function imported(text: string, prefer?: "rgb" | "hsv") {
  const opened = table(text);
  const looks = lookAt(opened);
  const plan = guessPlan(opened, looks, prefer);
  const read = readTable(opened, plan);
  if ("error" in read) throw new Error(read.error);
  return { plan, looks, ...read };
}
const values = (column: Float64Array | undefined) => [...(column ?? [])];

describe("a text of readings", () => {
  it("with semicolons, decimal commas and a byte-order mark", () => {
    const { readings, plan } = imported("\uFEFFtime;red;green;blue\r\n0,00;0,5;0,25;0,125\r\n0,02;0,6;0,2;0,1\r\n");
    expect(plan.report).toBe("rgb");
    expect(values(readings.t)).toEqual([0, 20]);
    expect(values(readings.channels.r)).toEqual([0.5, 0.6]);
  });

  it("with tabs and no header: what rises is the time, the rest the colours", () => {
    const { readings, plan } = imported("0\t700\t80\t60\n20\t701\t82\t61\n40\t699\t81\t60\n");
    expect(plan).toMatchObject({ report: "rgb", time: { column: 0, unitMs: 1 }, channels: { r: 1, g: 2, b: 3 } });
    expect(readings.t).toHaveLength(3);
  });

  it("without a time: rows come at the sensor's period", () => {
    const { readings, plan } = imported("h,s,v\n10,200,100\n11,201,99\n10,199,98\n");
    expect(plan).toMatchObject({ report: "hsv", time: { everyMs: 20 } });
    expect(values(readings.t)).toEqual([0, 20, 40]);
  });

  it("with lines above the header and a second header line of units", () => {
    const { readings, bad } = imported("Recorded on the bench\nt_ms,r,g,b\nms,raw,raw,raw\n0,1,2,3\n20,4,5,6\n");
    expect(values(readings.channels.g)).toEqual([2, 5]);
    expect(bad).toEqual([{ line: 3, message: "column t_ms holds “ms”, which is not a number" }]);
  });

  it("as JSON lines, one of them broken", () => {
    const { readings, bad } = imported('{"t_s":0,"hue":10}\n{"t_s":0.5,"hue":20}\n{"t_s":\n{"t_s":1,"hue":30}\n');
    expect(values(readings.t)).toEqual([0, 500, 1000]);
    expect(bad).toEqual([{ line: 3, message: "this is not a JSON object" }]);
  });

  it("in which time goes back or stands still", () => {
    const { readings, bad, repeatedTimes } = imported("t_ms,r,g,b\n0,1,1,1\n20,1,1,1\n20,2,2,2\n10,3,3,3\n40,4,4,4\n");
    expect(values(readings.t)).toEqual([0, 20, 20, 40]);
    expect(repeatedTimes).toBe(1);
    expect(bad).toEqual([{ line: 5, message: "time goes back from 20 to 10 ms" }]);
  });

  it("with labels, lights and heights beside the readings", () => {
    const { labels, lights, heights } = imported(
      "t_ms,r,g,b,label,light,height_mm\n0,1,1,1,coral,Dusk,12\n20,2,2,2,,,\n",
    );
    expect([labels, lights, heights]).toEqual([
      ["coral", ""],
      ["Dusk", ""],
      [12, Number.NaN],
    ]);
  });

  it.each([
    ["NaN", "column r holds “NaN”, which is not a number"],
    ["", "column r is empty"],
    ['"0,5"', "column r holds “0,5”, which is not a number; numbers here are written with a point"],
  ])("with a cell %s leaves that row out and names it", (cell, message) => {
    const read = readReadings(`t_ms,r,g,b\n0,${cell},1,1\n20,1,1,1\n`, "rgb");
    expect(read).toMatchObject({ bad: [{ line: 2, message }] });
  });

  it.each([
    ["nothing at all", " \n\n", "the file is empty"],
    ["too many columns", `${Array.from({ length: 201 }, (_, i) => `c${i}`).join(",")}\n`, "at most 200"],
    ["no JSON object", "{oops\n", "no line holds a JSON object"],
  ])("that holds %s is refused in one sentence", (_, text, message) => {
    expect(openTable(text)).toMatchObject({ error: expect.stringContaining(message) });
  });

  it("with 100 columns of which three are wanted", () => {
    const names = Array.from({ length: 97 }, (_, i) => `x${i}`);
    const { readings, unknownColumns } = imported(
      `${[...names, "r", "g", "b"].join(",")}\n${[...names.map(() => "word"), 1, 2, 3].join(",")}\n`,
    );
    expect(values(readings.channels.b)).toEqual([3]);
    expect(unknownColumns).toHaveLength(97);
  });

  it("with more readings than a tape may hold is refused with the line", () => {
    const opened = table("t_ms,reflected\n0,1\n");
    const endless = {
      ...opened,
      *rows() {
        for (let line = 2; ; line++) yield { line, cells: [String(line), "1"], end: 0 };
      },
    };
    expect(readTable(endless, guessPlan(opened, lookAt(opened)))).toMatchObject({
      error: expect.stringContaining("more than 2000000 readings"),
      line: 2_000_002,
    });
  });
});

it.each([
  [
    { r: 200, g: 100, b: 90, c: 250 },
    { r: 255, g: 255, b: 255, c: 255 },
  ],
  [
    { r: 0.9, g: 1, b: 0.3 },
    { r: 1, g: 1, b: 1 },
  ],
  [
    { r: 1e6, g: 3, b: 3 },
    { r: 1e6, g: 1e6, b: 1e6 },
  ],
  [{ reflected: 900 }, { reflected: 1023 }],
  [{ hue: 240 }, { hue: 255 }],
  [{ hue: 300 }, { hue: 360 }],
  // A hue beside percentages is in degrees, however far it goes; beside bytes it may be halved degrees.
  [
    { h: 240, s: 98, v: 77 },
    { h: 360, s: 100, v: 100 },
  ],
  [
    { h: 90, s: 98, v: 77 },
    { h: 360, s: 100, v: 100 },
  ],
  [
    { h: 179, s: 255, v: 200 },
    { h: 180, s: 255, v: 255 },
  ],
  [
    { h: 240, s: 200, v: 250 },
    { h: 255, s: 255, v: 255 },
  ],
  [
    { h: 340, s: 200, v: 250 },
    { h: 360, s: 255, v: 255 },
  ],
  [
    { h: 0.9, s: 0.5, v: 1 },
    { h: 1, s: 1, v: 1 },
  ],
] as const)("guesses the scales of %j", (maxima, ends) => {
  expect(guessScales(maxima)).toEqual(ends);
});

it("reads the rows of one sensor where a column says whose they are", () => {
  const text = "t_ms,sensor,r,g,b\n0,left,1,2,3\n0,right,4,5,6\n20,left,7,8,9\n20,right,10,11,12\n";
  const { plan, looks, readings, bad, unknownColumns } = imported(text);
  expect(looks[1].sensors).toEqual(["left", "right"]);
  expect(plan.only).toEqual({ column: 1, name: "left" });
  expect([values(readings.t), values(readings.channels.r), bad, unknownColumns]).toEqual([[0, 20], [1, 7], [], []]);
  const right = readTable(table(text), { ...plan, only: { column: 1, name: "right" } });
  expect("readings" in right && values(right.readings.channels.r)).toEqual([4, 10]);
});
