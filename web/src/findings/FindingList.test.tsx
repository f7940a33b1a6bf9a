import { glasshouseRound } from "@perceptum/core/demo";
import type { Finding } from "@perceptum/core/findings";
import { act } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { names, see } from "../../testing/hand";
import { shownFor } from "../../testing/shown";
import { FindingList } from "./FindingList";

const hint = (title: string): Finding => ({
  code: "wrong-order",
  level: "hint",
  title,
  sentence: "Something is to be known.",
  place: { stage: "decide" },
});

describe("the list of findings", () => {
  it("leaves the focus on a finding's button while others come before it and go", async () => {
    const { session } = await shownFor(glasshouseRound(), <FindingList stage="decide" />);
    const find = (...titles: string[]) =>
      act(async () => session.mentor.findings.set({ project: null, list: titles.map(hint) }));
    await find("Coral is dark", "Teal is dark", "Teal is dark");
    const button = await see("button", "Show: Coral is dark");
    button.focus();
    await find("Amber is dark", "Coral is dark");
    expect(document.activeElement?.getAttribute("aria-label")).toBe("Show: Coral is dark");
    await find("Coral is dark", "Teal is dark", "Teal is dark");
    expect(document.activeElement?.getAttribute("aria-label")).toBe("Show: Coral is dark");
    expect(names("listitem", /Teal is dark/)).toHaveLength(2);
  });
});
