import type { TargetId } from "@perceptum/core/names";
import { FEATURE_FACTS, type Feature, REPORT_KINDS } from "@perceptum/core/readings";
import { type HeightSweep, sweepHeights, type Under } from "@perceptum/core/world";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { targetsFirst, useProject, useSensor } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { standSet } from "../model/store/sense";
import { Chip } from "../targets/Chip";
import { Button } from "../ui/Button";
import { CheckGroup } from "../ui/Check";
import { Dim, Empty } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";

const SweepChart = lazily(() => import("./SweepChart").then((m) => m.SweepChart));

const Room = styled.div`
  height: 300px;
`;

/** A feature against height for chosen things, with the heights marked at which all of them read well and apart. */
export function HeightSweepSheet({ onClose }: { onClose: () => void }) {
  const { targets, lights } = useProject();
  const sensor = useSensor();
  const stand = useAppSelector((state) => state.sense.stand);
  const dispatch = useAppDispatch();
  const order = targetsFirst(targets);
  const given = REPORT_KINDS.get(sensor.reports).features;
  const [things, setThings] = useState<readonly TargetId[]>(() => order.slice(0, 3).map((t) => t.id));
  const [feature, setFeature] = useState<Feature>(() => given.find((f) => f === "hue") ?? given[0]);
  const sweep = useMemo(
    (): HeightSweep | null =>
      things.length === 0 ? null : sweepHeights(sensor, lights, targets, stand, things as readonly Under[], feature),
    [sensor, lights, targets, stand, things, feature],
  );
  const usable = sweep?.usable;
  const best = sweep?.best;
  return (
    <Sheet title="Height sweep" wide isOpen onClose={onClose}>
      <CheckGroup
        label="Things to read"
        items={order.map((target) => ({
          id: target.id,
          words: (
            <>
              <Chip target={target} /> {target.name}
            </>
          ),
        }))}
        chosen={things}
        onChange={setThings}
      />
      <Select
        label="feature"
        value={feature}
        options={given.map((f) => ({ id: f, text: FEATURE_FACTS[f].word }))}
        onChange={setFeature}
      />
      <Room>
        {sweep === null ? (
          <Empty>Choose at least one thing to read.</Empty>
        ) : (
          <SweepChart sweep={sweep} targets={targets} at={stand.height} />
        )}
      </Room>
      <p>
        {usable === undefined
          ? "At no height do all of them read bright enough, unclipped and apart. Take fewer things, another feature, or another light."
          : `From ${usable[0]} to ${usable[1]} mm they read bright enough, unclipped and apart in ${FEATURE_FACTS[feature].word}; at ${best} mm they are brightest.`}{" "}
        <Dim>The stand is at {stand.height} mm.</Dim>
      </p>
      <SheetButtons>
        <Button
          why={best === undefined && "At no height do all of them read well and apart."}
          onPress={() => best !== undefined && dispatch(standSet({ height: best }))}
        >
          {best === undefined ? "Set the stand" : `Set the stand to ${best} mm`}
        </Button>
        <Button $main onPress={onClose}>
          Close
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
