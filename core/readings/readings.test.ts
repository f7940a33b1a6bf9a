import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { arbitraryReadings, SMALL_SENSOR } from "../rules/arbitrary";
import {
  Blocks,
  byColour,
  type Channel,
  chunkOf,
  decodeReadings,
  encodeReadings,
  exactShown,
  FEATURES,
  featureReader,
  packReadings,
  REPORT_KINDS,
  ReadingBlock,
  type Report,
  readReadings,
  type Scaling,
  unpackReadings,
  valueShownAs,
  WIRE_ORDERS,
  type WireOrder,
  wholeShown,
  writeCsv,
} from ".";

const raw = (r: number, g: number, b: number) => ({
  t: Float64Array.of(0),
  channels: { r: Float64Array.of(r), g: Float64Array.of(g), b: Float64Array.of(b) },
});

describe("a block of readings", () => {
  it("puts the wire's order right before it scales", () => {
    const block = new ReadingBlock(raw(3, 6, 12), { ...SMALL_SENSOR, order: "bgr" });
    expect([block.column("r")[0], block.column("g")[0], block.column("b")[0]]).toEqual([1, 0.5, 0.25]);
    const grb = new ReadingBlock(raw(3, 6, 12), { ...SMALL_SENSOR, order: "grb" });
    expect([grb.column("r")[0], grb.column("g")[0], grb.column("b")[0]]).toEqual([0.5, 0.25, 1]);
  });

  it("shows raw values by colour, whatever order they came in", () => {
    const shown = (order?: WireOrder) =>
      byColour({ r: 3, g: 6, b: 12 }, { reports: "rgb", ...(order && { order }) }).map(
        ({ channel, values }) => `${channel} ${values}`,
      );
    expect(shown()).toEqual(["r 3", "g 6", "b 12"]);
    expect(shown("bgr")).toEqual(["r 12", "g 6", "b 3"]);
    expect(shown("grb")).toEqual(["r 6", "g 3", "b 12"]);
  });

  it("puts every one of the six orders right", () => {
    expect(WIRE_ORDERS).toHaveLength(6);
    expect(WIRE_ORDERS[4]).toEqual({ id: "brg", text: "blue, red, green" });
    const value = { r: 3, g: 6, b: 12 };
    for (const { id } of WIRE_ORDERS) {
      const [first, second, third] = [...id].map((letter) => value[letter as keyof typeof value]);
      const came = byColour({ r: first, g: second, b: third }, { reports: "rgb", order: id });
      expect(
        came.map(({ values }) => values),
        id,
      ).toEqual([3, 6, 12]);
    }
  });

  it("clamps what lies beyond the scale, and lets a hue wrap", () => {
    const read = featureReader({ reports: "rgb", scale: { r: [10, 110], g: [10, 110], b: [10, 110] } });
    expect(read([210, -40, 60])).toMatchObject({ r: 1, g: 0, b: 0.5, val: 1 });
    expect(read([5000, 5000, 5000]).light).toBeCloseTo(100, 2);
    const hsv = featureReader({ reports: "hsv", scale: { h: [0, 255], s: [0, 255], v: [0, 255] } });
    expect(hsv([255 + 64, 400, -3]).val).toBe(0);
    expect(hsv([255 * 1.25, 400, 255]).hue).toBeCloseTo(90, 6);
    const hue = featureReader({ reports: "hue", scale: { hue: [0, 360] } });
    expect(hue([370]).hue).toBeCloseTo(10, 9);
    // Sampled over far more than the scale, every feature stays in its range.
    for (let v = -3000; v < 3000; v += 137) {
      const features = read([v, 2 * v, 300 - v]);
      for (const f of ["r", "g", "b", "sat", "val"] as const)
        expect(features[f] >= 0 && features[f] <= 1, f).toBe(true);
      expect(features.light >= 0 && features.light <= 100.001).toBe(true);
      expect(Number.isFinite(features.chroma)).toBe(true);
    }
  });

  it("measures against white and dark, and clamps what lies beyond", () => {
    const block = new ReadingBlock(raw(2, 6, 12), {
      ...SMALL_SENSOR,
      reference: { dark: [2, 2, 2], white: [10, 10, 10] },
    });
    expect([block.column("r")[0], block.column("g")[0], block.column("b")[0]]).toEqual([0, 0.5, 1]);
  });

  it("gives one reading the same features as its columns", () => {
    fc.assert(
      fc.property(arbitraryReadings, (readings) => {
        const block = new ReadingBlock(readings, SMALL_SENSOR);
        for (let i = 0; i < block.length; i++)
          for (const f of FEATURES) expect(block.at(i)[f]).toBe(block.column(f)[i]);
      }),
    );
  });

  it("finds the reading at a time", () => {
    const block = new ReadingBlock(
      {
        t: Float64Array.of(0, 20, 40),
        channels: { r: new Float64Array(3), g: new Float64Array(3), b: new Float64Array(3) },
      },
      SMALL_SENSOR,
    );
    expect([-5, 0, 19.9, 20, 999].map((t) => block.indexAt(t))).toEqual([0, 0, 0, 1, 2]);
    expect(
      new ReadingBlock(
        { t: new Float64Array(), channels: { r: new Float64Array(), g: new Float64Array(), b: new Float64Array() } },
        SMALL_SENSOR,
      ).indexAt(0),
    ).toBe(-1);
  });

  it("refuses channels of different lengths", () => {
    const broken = {
      t: new Float64Array(2),
      channels: { r: new Float64Array(2), g: new Float64Array(1), b: new Float64Array(2) },
    };
    expect(() => new ReadingBlock(broken, SMALL_SENSOR)).toThrow("channel g has 1 values for 2 times");
  });

  it("is made once for the same readings and sensor", () => {
    const readings = raw(1, 2, 3);
    const blocks = new Blocks();
    expect(blocks.of(readings, SMALL_SENSOR)).toBe(blocks.of(readings, SMALL_SENSOR));
    expect(blocks.of(readings, { ...SMALL_SENSOR })).not.toBe(blocks.of({ ...readings }, SMALL_SENSOR));
  });
});

describe("readings as bytes and as JSON", () => {
  it("come back the same, from one chunk or from several joined", () => {
    fc.assert(
      fc.property(arbitraryReadings, (readings) => {
        expect(decodeReadings(encodeReadings(readings))).toEqual(readings);
        const chunk = encodeReadings(readings);
        expect(chunkOf(chunk)).toEqual({
          count: readings.t.length,
          columns: 1 + Object.keys(readings.channels).length,
        });
        expect(chunkOf(chunk.subarray(0, chunk.length - 8))).toBeUndefined();
        expect(packReadings(unpackReadings(readings))).toEqual(readings);
        const later = { ...readings, t: readings.t.map((t) => t + 10_000) };
        const joined = decodeReadings(Buffer.concat([encodeReadings(readings), encodeReadings(later)]));
        expect([...joined.t]).toEqual([...readings.t, ...later.t]);
      }),
    );
  });

  it("that are cut off, or no numbers, are refused with the place", () => {
    const bytes = encodeReadings(raw(1, 2, 3));
    expect(() => decodeReadings(bytes.slice(0, 20))).toThrow("cut off within a number");
    expect(() => decodeReadings(bytes.slice(0, 24))).toThrow("cut off after 0");
    expect(() => decodeReadings(encodeReadings(raw(1, Number.NaN, 3)))).toThrow(
      "reading 1 holds something that is not a number",
    );
    const backwards = {
      t: Float64Array.of(5, 0),
      channels: { r: new Float64Array(2), g: new Float64Array(2), b: new Float64Array(2) },
    };
    expect(() => decodeReadings(encodeReadings(backwards))).toThrow("time goes backwards at reading 2");
  });
});

describe("CSV", () => {
  const read = (text: string) => {
    const result = readReadings(text, "rgb");
    if ("error" in result) throw new Error(result.error);
    return result;
  };

  it("comes back as it was written", () => {
    fc.assert(
      fc.property(arbitraryReadings, (readings) => {
        expect(read(writeCsv(readings)).readings).toEqual(readings);
      }),
    );
  });

  it("takes columns in any order, seconds, quotes, a byte-order mark and labels", () => {
    const { readings, labels, unknownColumns } = read(
      '\uFEFFlabel,b,"g",r,t_s,note\r\ncoral,3,2,1,0.5,"a, b"\r\n"te ""al",6,5,4,1,\r\n',
    );
    expect([...readings.t]).toEqual([500, 1000]);
    expect([...(readings.channels.r ?? [])]).toEqual([1, 4]);
    expect(labels).toEqual(["coral", 'te "al']);
    expect(unknownColumns).toEqual(["note"]);
  });

  it("reports a bad cell with its line and reads the other lines", () => {
    const { readings, bad } = read("t_ms,r,g,b\n0,1,2,3\n20,x,2,3\n40,,2,3\n60,1,2,3\n50,1,2,3\n");
    expect([...readings.t]).toEqual([0, 60]);
    expect(bad).toEqual([
      { line: 3, message: "column r holds “x”, which is not a number" },
      { line: 4, message: "column r is empty" },
      { line: 6, message: "time goes back from 60 to 50 ms" },
    ]);
  });

  it("says in one sentence what an empty file or a header lacks", () => {
    expect(readReadings("", "rgb")).toMatchObject({ line: 1, error: expect.stringContaining("empty") });
    expect(readReadings("t_ms,r,b\n", "rgb")).toMatchObject({ error: expect.stringContaining("no column g") });
  });
});

it("reads JSON lines, and reports the bad ones by line", () => {
  const read = readReadings(
    '{"t_ms":0,"r":1,"g":2,"b":3}\n\nnonsense\n{"t_ms":20,"r":1,"g":2}\n{"t_ms":40,"r":4,"g":5,"b":6}\n',
    "rgb",
  );
  if ("error" in read) throw new Error(read.error);
  expect([...read.readings.t]).toEqual([0, 40]);
  expect(read.bad).toEqual([
    { line: 3, message: "this is not a JSON object" },
    { line: 4, message: "column b is empty" },
  ]);
});

it("writes every value as the shortest figure that reads back as exactly it", () => {
  expect(exactShown("sat", 0.29)).toBe("29");
  expect(exactShown("sat", 0.555)).toBe("55.5");
  expect([359.4, 359.6, 0.4].map((hue) => wholeShown("hue", hue))).toEqual([359, 0, 0]);
  expect(wholeShown("sat", 0.555)).toBe(56);
  fc.assert(
    fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (v) => {
      expect(valueShownAs("sat", Number(exactShown("sat", v)))).toBeCloseTo(v, 15);
    }),
  );
});

describe("a sensor's report", () => {
  const block = (reports: Report, channels: Partial<Record<Channel, number[]>>, more: Partial<Scaling> = {}) =>
    new ReadingBlock(
      {
        t: Float64Array.from(Object.values(channels)[0], (_, i) => i),
        channels: Object.fromEntries(Object.entries(channels).map(([k, v]) => [k, Float64Array.from(v)])),
      },
      { reports, scale: Object.fromEntries(Object.keys(channels).map((k) => [k, [0, 100]])), ...more },
    );

  it("of hue, saturation and value gives the same features as its colours", () => {
    const hsv = block("hsv", { h: [0, 50, 100], s: [100, 50, 0], v: [100, 80, 40] });
    expect([...hsv.column("hue")]).toEqual([0, 180, Number.NaN]);
    expect(hsv.column("sat")[1]).toBeCloseTo(0.5, 12);
    expect(hsv.column("r")[1]).toBeCloseTo(0.4, 12);
  });

  it("of a hue alone gives nothing else, and wraps", () => {
    const hue = block("hue", { hue: [0, 25, 100] });
    expect([...hue.column("hue")]).toEqual([0, 90, 0]);
    expect(hue.column("sat")[1]).toBeNaN();
    expect(hue.at(1)).toMatchObject({ hue: 90, val: Number.NaN });
  });

  it("with clear and a colour order puts both right", () => {
    const rgbc = block("rgbc", { r: [10], g: [20], b: [30], c: [40] }, { order: "bgr" });
    expect(rgbc.at(0)).toMatchObject({ r: 0.3, g: 0.2, b: 0.1, clear: 0.4 });
  });

  it("of reflected light is measured against white and dark; codes are not scaled", () => {
    const reflected = block("reflected", { reflected: [30] }, { reference: { dark: [10], white: [50] } });
    expect(reflected.column("reflected")[0]).toBe(0.5);
    expect(block("code", { code: [7] }).at(0).code).toBe(7);
  });

  it.each(REPORT_KINDS.keys)(
    "%s: one reading has the same features as the block, and bytes come back as they were",
    (reports) => {
      const { channels } = REPORT_KINDS.get(reports);
      const columns = Object.fromEntries(channels.map((c, k) => [c, [3, 47 + k, 99]]));
      const many = block(reports, columns);
      const read = featureReader({ reports, scale: Object.fromEntries(channels.map((c) => [c, [0, 100]])) });
      for (let i = 0; i < 3; i++) {
        const one = read(channels.map((c) => columns[c][i]));
        for (const feature of FEATURES) expect(one[feature]).toBe(many.column(feature)[i]);
        for (const feature of FEATURES) expect(many.at(i)[feature]).toBe(one[feature]);
      }
      const raw = { t: many.t, channels: Object.fromEntries(channels.map((c) => [c, Float64Array.from(columns[c])])) };
      expect(decodeReadings(encodeReadings(raw))).toEqual(raw);
    },
  );

  it("that lacks a channel is refused by name", () => {
    expect(() => block("rgb", { r: [1], g: [1] })).toThrow("channel b has no values for 1 times");
  });
});

describe("a table with something wrong in it", () => {
  const read = (text: string, format?: "csv" | "jsonl") => {
    const made = readReadings(text, "rgb", format);
    if ("error" in made) throw new Error(made.error);
    return {
      t: [...made.readings.t],
      bad: made.bad.map(({ line, message }) => `${line}: ${message}`),
      labels: made.labels,
    };
  };
  const HEADER = "t_ms,r,g,b,label\n";

  it("loses only the line in which a quote is not closed", () => {
    expect(
      read(`${HEADER}0,1,2,3,coral\n20,1,2,3,"coral\n40,1,2,3,teal\n60,1,2,3,"a ""b"""\n80,1,2,3,x\n`),
    ).toMatchObject({
      t: [0, 40, 60, 80],
      bad: [expect.stringMatching(/^3: /)],
    });
    expect(read(`${HEADER}0,1,2,3,coral\n20,1,2,3,"coral\n40,1,2,3,teal\n`)).toMatchObject({
      t: [0, 40],
      bad: ["3: a quote that begins in this line is never closed"],
    });
    // The next quote far below does not close it: the record would have too few cells.
    expect(read(`${HEADER}0,1,2,3,"coral\n20,1,2,3",teal\n40,1,2,3,"x"\n`)).toMatchObject({
      t: [40],
      bad: ["2: a quote that begins in this line is not closed in it", '3: column b holds “3"”, which is not a number'],
    });
  });

  it.each([
    ["0,5,700,120,90,7", "this line has 6 values for 5 columns"],
    ['0,"7"00,120,90,', "behind a quoted cell stands “00”"],
    ["0,0x2BC,1,2,", "column r holds “0x2BC”, which is not a number"],
    ["0,[120],1,2,", "column r holds “[120]”, which is not a number"],
    ["0,1e308,1,2,", "column r holds “1e308”, which is not a number"],
    ["0,Infinity,1,2,", "column r holds “Infinity”, which is not a number"],
    ["0,,1,2,", "column r is empty"],
  ])("says of %s why it is left out", (line, message) => {
    expect(read(`${HEADER}${line}\n20,1,2,3,coral\n`)).toMatchObject({ t: [20], bad: [`2: ${message}`] });
  });

  it("loses one time that leaps ahead, and not all that follow", () => {
    const lines = (times: readonly number[]) => HEADER + times.map((t) => `${t},1,2,3,x`).join("\n");
    expect(read(lines([0, 20, 99_999_999, 40, 60]))).toMatchObject({
      t: [0, 20, 40, 60],
      bad: ["4: its time, 99999999 ms, lies far ahead of the lines that follow"],
    });
    expect(read(lines([5_000_000, 0, 20, 40])).t).toEqual([0, 20, 40]);
    // A pause is none, and a time that goes back a little is wrong itself.
    expect(read(lines([0, 20, 90_000, 90_020]))).toMatchObject({ bad: [] });
    expect(read(lines([0, 20, 40, 30, 60]))).toMatchObject({
      t: [0, 20, 40, 60],
      bad: ["5: time goes back from 40 to 30 ms"],
    });
  });

  it("has the columns of all its JSON lines, not only of the first", () => {
    const text =
      '{"t_ms":0,"r":1,"g":2,"b":3}\n{"t_ms":20,"r":1,"g":2,"b":3,"label":"coral"}\n{"t_ms":40,"r":[120],"g":2,"b":3}\n';
    expect(read(text, "jsonl")).toEqual({
      t: [0, 20],
      labels: ["", "coral"],
      bad: ["4: column r holds “[120]”, which is not a number"].map((x) => x.replace("4", "3")),
    });
  });

  it("has every line either read or named with its reason", () => {
    const cell = fc.constantFrom("1", "2.5", "", '"', '"3"', '"4', "x", '""', "1e400", "a,b", '"a,b"', '"5"6');
    const line = fc.array(cell, { minLength: 3, maxLength: 6 }).map((cells) => cells.join(","));
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 12 }), (lines) => {
        const text = `${HEADER}${lines.map((rest, i) => `${i * 20},${rest}`).join("\n")}\n`;
        const made = readReadings(text, "rgb", "csv");
        if ("error" in made) throw new Error(made.error);
        // What a cell in quotes holds may run over lines: those belong to its record, which is read or left out whole.
        const records = made.readings.t.length + made.badCount;
        expect(records).toBeLessThanOrEqual(lines.length);
        if (!lines.some((l) => l.includes('"'))) expect(records).toBe(lines.length);
        for (const { message, line: at } of made.bad) expect([message.length > 5, at > 1]).toEqual([true, true]);
      }),
      { numRuns: 500 },
    );
  });
});
