import type { LightId } from "@perceptum/core/names";
import { type Course, courseKindOf, type SweepGrid } from "@perceptum/core/world";
import { Fragment } from "react";
import styled from "styled-components";
import { useProject } from "../../hooks/project";
import { CheckGroup } from "../../ui/Check";
import { EntryField } from "../../ui/EntryField";
import { Title } from "../../ui/layout";

const Rows = styled.div`
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 6px 8px;
  align-items: center;
  & > :nth-child(odd) { color: ${({ theme }) => theme.ink2}; }
`;

/** What is typed as numbers: its words, its unit, and between which numbers it lies. */
const NUMBERS = {
  speed: { word: "speed ×", label: "Factors on the speed", unit: "", low: 0.01, high: 100 },
  height: { word: "height +", label: "Heights added, in mm", unit: " mm", low: -500, high: 500 },
  noise: { word: "noise ×", label: "Factors on the noise", unit: "", low: 0, high: 1000 },
} as const;
type NumberAxis = keyof typeof NUMBERS;
const NUMBER_AXES = Object.keys(NUMBERS) as NumberAxis[];

/** What a sweep varies, as far as it can matter on the course. */
export function VariedFields(props: {
  course: Course;
  grid: SweepGrid;
  onChange: (change: (grid: SweepGrid) => SweepGrid) => void;
}) {
  const { course, grid, onChange } = props;
  const { lights } = useProject();
  const { axes } = courseKindOf(course);
  const takeNumbers = (axis: NumberAxis) => (text: string) => {
    const { low, high } = NUMBERS[axis];
    const values = text
      .split(/[,;\s]+/)
      .filter((x) => x !== "")
      .map(Number);
    if (values.length === 0 || values.some((v) => !(v >= low && v <= high)))
      return `Numbers from ${low} to ${high}, with commas between.`;
    onChange((g) => ({ ...g, [axis]: [...new Set(values)] }));
    return undefined;
  };
  const takeSeeds = (text: string) => {
    const seeds = Number(text);
    if (!Number.isInteger(seeds) || seeds < 1 || seeds > 1_000_000) return "A whole number from 1 on.";
    onChange((g) => ({ ...g, seeds }));
    return undefined;
  };
  return (
    <>
      <Title style={{ marginBottom: 8 }}>Vary</Title>
      <Rows>
        <span>light</span>
        <CheckGroup
          label="Lights"
          items={lights.map((l) => ({ id: l.id, words: l.name }))}
          chosen={grid.light as LightId[]}
          onChange={(light) => onChange((g) => ({ ...g, light }))}
        />
        {axes.includes("start") && (
          <>
            <span>start</span>
            <CheckGroup
              label="Starts"
              items={course.starts.map((s) => ({ id: s.name, words: s.name }))}
              chosen={grid.start}
              onChange={(start) => onChange((g) => ({ ...g, start }))}
            />
          </>
        )}
        {NUMBER_AXES.filter((axis) => axes.includes(axis)).map((axis) => (
          <Fragment key={axis}>
            <span>{NUMBERS[axis].word}</span>
            <div>
              <EntryField
                width={130}
                label={NUMBERS[axis].label}
                text={grid[axis].join(", ")}
                take={takeNumbers(axis)}
              />
              {NUMBERS[axis].unit}
            </div>
          </Fragment>
        ))}
        <span>seeds</span>
        <div>
          <EntryField mono label="Number of seeds" text={String(grid.seeds)} take={takeSeeds} />
        </div>
      </Rows>
    </>
  );
}
