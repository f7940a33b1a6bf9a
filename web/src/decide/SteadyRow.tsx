import type { Steady } from "@perceptum/core/project";
import { memo } from "react";
import styled from "styled-components";
import { useEdit, withRuleSet } from "../state/project";
import { useAppSelector } from "../state/store";
import { EntryField } from "../ui/EntryField";
import { Dim } from "../ui/layout";

const Row = styled(Dim)`
  display: flex;
  align-items: center;
  gap: 4px;
  flex-wrap: wrap;
  font-size: 12px;
  padding: 7px 2px;
`;

/** How many readings it takes until something is seen, and until it is given up. */
export const SteadyRow = memo(function SteadyRow() {
  const steady = useAppSelector((state) => state.document.present?.ruleSets[0].steady) as Steady;
  const edit = useEdit();
  const take = (key: keyof Steady, low: number, high: number, what: string) => (text: string) => {
    const value = Number(text);
    if (text.trim() === "" || !Number.isInteger(value) || value < low || value > high)
      return `${what} is a whole number from ${low} to ${high}; it stays as it was.`;
    edit("steadying", (p) => withRuleSet(p, { ...p.ruleSets[0], steady: { ...steady, [key]: value } }));
    return undefined;
  };
  const field = (key: keyof Steady, low: number, high: number, what: string) => (
    <EntryField
      mono
      width={key === "rejoinMs" ? 46 : 32}
      label={what}
      text={String(steady[key])}
      take={take(key, low, high, what)}
    />
  );
  return (
    <Row as="div">
      seen after {field("hits", 1, steady.of, "Readings needed")} of{" "}
      {field("of", steady.hits, 50, "Readings looked at")} · given up after{" "}
      {field("release", 1, 50, "Readings without it")} · same visit within{" "}
      {field("rejoinMs", 0, 60_000, "Milliseconds of the same visit")} ms
    </Row>
  );
});
