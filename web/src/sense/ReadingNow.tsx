import { useCallback } from "react";
import styled from "styled-components";
import { usePalette } from "../app/themeChoice";
import { type SourceView, usePlayhead } from "../state/source";
import { Canvas } from "../ui/Canvas";
import { cssColour } from "../ui/cssColour";
import { Dim, Num, Title } from "../ui/layout";
import { useSize } from "../ui/useSize";

const Line = styled.div`
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
  & small { font-size: 18px; font-weight: 600; color: ${({ theme }) => theme.ink2}; margin-left: 12px; }
`;
const Raw = styled.p`
  font: 15px ${({ theme }) => theme.mono};
  white-space: pre;
  margin-top: 6px;
`;

/** The last seconds before the playhead, in ms. */
const STRIP_MS = 3000;

/** The reading at the playhead, large: hue, saturation, value, raw, its colour, and the seconds before it. */
export function ReadingNow({ source }: { source: SourceView }) {
  const { block, raw } = source;
  const t = usePlayhead(source.source);
  const index = block.indexAt(t);
  const palette = usePalette();
  const { ref, width } = useSize<HTMLDivElement>();

  const draw = useCallback(
    (context: CanvasRenderingContext2D) => {
      const [r, g, b] = (["r", "g", "b"] as const).map((f) => block.column(f));
      const from = t - STRIP_MS;
      for (let i = Math.max(0, block.indexAt(from)); i <= index; i++) {
        const x = ((block.t[i] - from) / STRIP_MS) * width;
        const next = i < index ? ((block.t[i + 1] - from) / STRIP_MS) * width : width;
        context.fillStyle = cssColour(r[i], g[i], b[i]);
        context.fillRect(x, 0, Math.max(1, next - x + 0.5), 30);
      }
      context.strokeStyle = palette.rule;
      context.strokeRect(0.5, 0.5, width - 1, 29);
    },
    [block, index, t, width, palette],
  );
  if (index < 0) return <Dim>This tape has no readings.</Dim>;
  const { r, g, b, hue, sat, val, light, chroma } = block.at(index);
  return (
    <section aria-label="Reading at the playhead">
      <Title>
        Reading {index + 1} of {block.length}, at {(block.t[index] / 1000).toFixed(2)} s
      </Title>
      <Line>
        <Swatch style={{ background: cssColour(r, g, b) }} role="img" aria-label="Its colour" />
        <div>
          <Large>
            {Number.isNaN(hue) ? "grey" : `${Math.round(hue)}°`}
            <small>{Math.round(sat * 100)} %</small>
            <small>{Math.round(val * 100)} %</small>
          </Large>
          <Dim>hue, saturation, value</Dim>
          <Raw>{raw.map(({ channel, values }) => `${channel.toUpperCase()} ${values[index]}`).join("  ")}</Raw>
          <Num>
            <Dim>
              lightness {light.toFixed(1)}, chroma {chroma.toFixed(1)}
            </Dim>
          </Num>
        </div>
      </Line>
      <div ref={ref}>
        <Canvas width={width} height={30} draw={draw} label="The last three seconds" />
      </div>
      <Dim style={{ fontSize: 11 }}>the last 3 s</Dim>
    </section>
  );
}
