import { FEATURE_FACTS, type Feature, type ReadingBlock, wholeShown } from "@perceptum/core/readings";
import { useCallback } from "react";
import styled from "styled-components";
import type { RawColumns } from "../hooks/source";
import { Canvas } from "../ui/Canvas";
import { colourOf } from "../ui/cssColour";
import { Dim, Num, Title } from "../ui/layout";
import { rawText } from "../ui/rawText";
import { usePalette } from "../ui/themeChoice";
import { useSize } from "../ui/useSize";

const Row = styled.div`
  display: flex;
  align-items: flex-end;
  gap: 16px;
  margin: 2px 0 6px;
`;
const Swatch = styled.div`
  width: 108px;
  height: 92px;
  border: 1px solid ${({ theme }) => theme.rule};
  flex: none;
`;
const Large = styled.p`
  font: 700 34px/1.05 ${({ theme }) => theme.mono};
  white-space: nowrap;
  & small { font-size: 18px; font-weight: 600; color: ${({ theme }) => theme.ink2}; margin-left: 12px; }
`;
const Raw = styled.p`
  font: 15px ${({ theme }) => theme.mono};
  white-space: pre;
  margin-top: 6px;
`;

/** The last seconds before the reading, in ms. */
const STRIP_MS = 3000;
/** The features that stand large, the first the largest, by what the sensor gives. */
const LARGE: readonly Feature[] = ["hue", "sat", "val", "reflected", "code"];

function large(feature: Feature, value: number): string {
  if (Number.isNaN(value)) return feature === "hue" ? "grey" : "–";
  const { unit } = FEATURE_FACTS[feature];
  return `${wholeShown(feature, value)}${unit === "%" ? " %" : unit}`;
}

/** One reading, large: what it is made of, raw, its colour, and the seconds before it. */
export function ReadingNow(props: {
  block: ReadingBlock;
  raw: RawColumns;
  index: number;
  title: string;
  label: string;
}) {
  const { block, raw, index, title, label } = props;
  const palette = usePalette();
  const { ref, width } = useSize<HTMLDivElement>();
  const t = block.t[index];

  const draw = useCallback(
    (context: CanvasRenderingContext2D) => {
      const from = t - STRIP_MS;
      const colour = colourOf(block);
      for (let i = Math.max(0, block.indexAt(from)); i <= index; i++) {
        const x = ((block.t[i] - from) / STRIP_MS) * width;
        const next = i < index ? ((block.t[i + 1] - from) / STRIP_MS) * width : width;
        context.fillStyle = colour(i);
        context.fillRect(x, 0, Math.max(1, next - x + 0.5), 30);
      }
      context.strokeStyle = palette.rule;
      context.strokeRect(0.5, 0.5, width - 1, 29);
    },
    [block, index, t, width, palette],
  );
  const features = block.at(index);
  const shown = LARGE.filter((f) => block.features.includes(f));
  const [first, ...rest] = shown;
  return (
    <section aria-label={label}>
      <Title>{title}</Title>
      <Row>
        <Swatch style={{ background: colourOf(block)(index) }} role="img" aria-label="Its colour" />
        <div>
          <Large>
            {first && large(first, features[first])}
            {rest.map((f) => (
              <small key={f}>{large(f, features[f])}</small>
            ))}
          </Large>
          <Dim>{shown.map((f) => FEATURE_FACTS[f].word).join(", ")}</Dim>
          <Raw>
            {raw
              .map(
                ({ channel, values }) =>
                  `${channel.length === 1 ? channel.toUpperCase() : channel} ${rawText(values[index])}`,
              )
              .join("  ")}
          </Raw>
          {block.features.includes("light") && (
            <Num>
              <Dim>
                lightness {features.light.toFixed(1)}, chroma {features.chroma.toFixed(1)}
                {block.features.includes("clear") && `, clear ${Math.round(features.clear * 100)} %`}
              </Dim>
            </Num>
          )}
        </div>
      </Row>
      <div ref={ref}>
        <Canvas width={width} height={30} draw={draw} label="The last three seconds" />
      </div>
      <Dim style={{ fontSize: 11 }}>the last 3 s</Dim>
    </section>
  );
}
