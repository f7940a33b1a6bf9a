import { describe, expect, it } from "vitest";
import { unbroken } from "./unbroken";

describe("a sentence that is not to break between a figure and its unit", () => {
  it("keeps units with their figures", () => {
    expect(unbroken("blink 2 Hz, wait 0.5 s at 20 cm/s and 35 %")).toBe(
      "blink 2\u00a0Hz, wait 0.5\u00a0s at 20\u00a0cm/s and 35\u00a0%",
    );
  });

  it("lets words that only begin like a unit go to the next line", () => {
    expect(unbroken("3 stops, 2 seconds, 4 cmd")).toBe("3 stops, 2 seconds, 4 cmd");
  });
});
