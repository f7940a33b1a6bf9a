import type { Steady } from "@perceptum/core/rules";
import { memo, useDeferredValue, useMemo, useState } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { useMarkedTapes } from "../hooks/marked";
import { currentRuleSet, useEdit, useRuleSetId, useSensor } from "../hooks/project";
import { useAppSelector } from "../hooks/store";
import { usePublished } from "../hooks/usePublished";
import { EntryField } from "../ui/EntryField";
import { Info } from "../ui/Info";
import { Dim, Title } from "../ui/layout";
import { Status } from "../ui/Status";
import { typedNumber } from "../ui/typed";

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  flex-wrap: wrap;
  font-size: 12px;
  padding: 4px 0;
  color: ${({ theme }) => theme.ink2};
`;

/** How many readings it takes until something is seen and until it is given up, and what that costs. */
export const SteadyPanel = memo(function SteadyPanel() {
  const steady = useAppSelector((state) => currentRuleSet(state)?.steady) as Steady;
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const take = (key: keyof Steady, low: number, high: number, what: string) => (text: string) => {
    const value = Number(text);
    if (text.trim() === "" || !Number.isInteger(value) || value < low || value > high)
      return `${what} is a whole number from ${low} to ${high}; it stays as it was.`;
    return edit("setSteady", { ruleSet, change: { [key]: value } });
  };
  const field = (key: keyof Steady, low: number, high: number, what: string) => (
    <EntryField
      mono
      width={key === "rejoinMs" ? 46 : 32}
      label={what}
      text={String(steady[key])}
      take={take(key, low, high, what)}
      step={(d, n) =>
        edit("setSteady", {
          ruleSet,
          change: { [key]: Math.max(low, Math.min(high, steady[key] + d * n * (key === "rejoinMs" ? 10 : 1))) },
        })
      }
    />
  );
  return (
    <section aria-label="Steadying">
      <Title style={{ marginTop: 12 }}>Steadying</Title>
      <Row>
        seen after {field("hits", 1, steady.of, "Readings needed")} of{" "}
        {field("of", steady.hits, 50, "Readings looked at")} · given up after{" "}
        {field("release", 1, 50, "Readings without it")} · same visit within{" "}
        {field("rejoinMs", 0, 60_000, "Milliseconds of the same visit")} ms <Info word="same visit within" />
      </Row>
      <Costs steady={steady} />
    </section>
  );
});

/** The delay in time and way, and how often the answer flickers with and without. */
function Costs({ steady }: { steady: Steady }) {
  const { periodMs } = useSensor();
  const [speed, setSpeed] = useState(15);
  const flicker = useFlicker();
  const [arrive, depart] = [steady.hits * periodMs, steady.release * periodMs];
  const way = (ms: number) => `${((speed * 10 * ms) / 1000).toFixed(0)} mm`;
  return (
    <>
      <Row>
        arrives {arrive} ms ({way(arrive)}) after the first reading at the soonest, departs after {depart} ms (
        {way(depart)}), at{" "}
        <EntryField
          mono
          width={40}
          label="Speed in cm/s"
          text={String(speed)}
          take={(text) => {
            const value = typedNumber(text);
            if (!(value > 0 && value <= 500)) return "A speed lies above 0 and up to 500 cm/s.";
            setSpeed(value);
            return undefined;
          }}
        />{" "}
        cm/s
      </Row>
      {flicker && (
        <Status label="Flicker" as={Dim} style={{ fontSize: 12 }}>
          {`changes a minute: ${flicker.labels.toFixed(1)} of the label, ${flicker.seen.toFixed(1)} of what is seen`}
        </Status>
      )}
    </>
  );
}

/** How often labels and what is seen change in a minute of tape. */
function useFlicker(): { labels: number; seen: number } | null {
  const { tapes: results } = useDeferredValue(usePublished(useSession().judging.settled));
  const tapes = useMarkedTapes();
  const sensor = useSensor();
  return useMemo(() => {
    let minutes = 0;
    let [labels, seen] = [0, 0];
    for (const { head, sensor: own, block } of tapes) {
      const result = results.get(head.id);
      if (own.ruleSet !== sensor.ruleSet || result === undefined || block.length < 2) continue;
      minutes += (block.t[block.length - 1] - block.t[0]) / 60_000;
      for (let i = 1; i < result.labels.length; i++) {
        if (result.labels[i] !== result.labels[i - 1]) labels++;
        if (result.seen[i] !== result.seen[i - 1]) seen++;
      }
    }
    return minutes > 0 ? { labels: labels / minutes, seen: seen / minutes } : null;
  }, [tapes, results, sensor.ruleSet]);
}
