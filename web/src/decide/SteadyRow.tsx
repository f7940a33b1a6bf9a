import type { Steady } from "@perceptum/core/project";
import styled from "styled-components";
import { useEdit, useRuleSet, withRuleSet } from "../state/project";
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
export function SteadyRow() {
  const ruleSet = useRuleSet();
  const edit = useEdit();
  const { steady } = ruleSet;
  const take = (key: keyof Steady, low: number, high: number, what: string) => (text: string) => {
    const value = Number(text);
    if (text.trim() === "" || !Number.isInteger(value) || value < low || value > high)
      return `${what} is a whole number from ${low} to ${high}; it stays as it was.`;
    edit("steadying", (p) => withRuleSet(p, { ...ruleSet, steady: { ...steady, [key]: value } }));
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
      {field("of", steady.hits, 50, "Readings looked at")}, given up after{" "}
      {field("release", 1, 50, "Readings without it")}, same visit within{" "}
      {field("rejoinMs", 0, 60_000, "Milliseconds of the same visit")} ms
    </Row>
  );
}
