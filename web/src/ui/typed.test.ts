import { expect, it } from "vitest";
import { nameProblem, takingName, typedNumber } from "./typed";

it("a number may be typed with a decimal comma and its unit", () => {
  expect(["0,5", " 55 %", "180°", "-3.25"].map(typedNumber)).toEqual([0.5, 55, 180, -3.25]);
  expect(["", "  ", "five", "1,2,3", "%"].map(typedNumber)).toEqual(Array(5).fill(Number.NaN));
});

it("a name is taken without the spaces around it, or refused in a sentence", () => {
  const taken: string[] = [];
  const take = takingName((name) => {
    taken.push(name);
    return name === "moss" ? "It is taken." : undefined;
  });
  expect([take("  Coral tag "), take("x".repeat(80))]).toEqual([undefined, undefined]);
  expect([take(""), take("   "), take("x".repeat(81))]).toEqual(Array(3).fill("A name has 1 to 80 characters."));
  expect(take("moss")).toBe("It is taken.");
  expect(taken).toEqual(["Coral tag", "x".repeat(80), "moss"]);
  expect(nameProblem("a")).toBeUndefined();
});
