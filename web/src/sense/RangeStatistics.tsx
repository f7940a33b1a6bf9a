import { FEATURE_FACTS, type Feature, type ReadingBlock, shownValue } from "@perceptum/core/readings";
import { spreadOf } from "@perceptum/core/teaching";
import { useMemo } from "react";
import styled from "styled-components";
import type { RawColumns } from "../hooks/source";

const Table = styled.table`
  width: 100%;
  font-size: 12px;
  margin-top: 6px;
  & th { text-align: right; font-weight: 400; color: ${({ theme }) => theme.ink2}; padding: 2px 0; }
  & td { text-align: right; font-family: ${({ theme }) => theme.mono}; padding: 2px 0; }
  & th:first-child { text-align: left; }
`;

const SHOWN: readonly Feature[] = ["hue", "sat", "val", "reflected"];

/** Mean, spread and range of the readings from index `from` to before `to`: raw channels first, then features. */
export function RangeStatistics(props: {
  block: ReadingBlock;
  raw: RawColumns;
  from: number;
  to: number;
  label: string;
}) {
  const { block, raw, from, to, label } = props;
  const rows = useMemo(
    () => [
      ...raw.map(({ channel, values }) => ({
        name: `raw ${channel.length === 1 ? channel.toUpperCase() : channel}`,
        // Raw values lie on a line, whatever they measure.
        spread: spreadOf("r", values.slice(from, to)),
        show: (v: number) => (Math.abs(v) < 10 && v !== Math.round(v) ? v.toFixed(2) : v.toFixed(0)),
        width: (v: number) => v.toFixed(v < 1 ? 2 : 1),
      })),
      ...SHOWN.filter((f) => block.features.includes(f)).map((f) => ({
        name: `${f} ${FEATURE_FACTS[f].unit}`,
        spread: spreadOf(f, block.column(f).slice(from, to)),
        show: (v: number) => shownValue(f, v).toFixed(1),
        width: (v: number) => shownValue(f, v).toFixed(1),
      })),
    ],
    [block, raw, from, to],
  );
  return (
    <Table aria-label={label}>
      <thead>
        <tr>
          <th />
          <th>mean</th>
          <th>spread</th>
          <th>range</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, spread, show, width }) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            <td>{spread ? show(spread.mean) : "–"}</td>
            <td>{spread ? `± ${width(spread.deviation)}` : "–"}</td>
            <td>{spread ? `${show(spread.min)}–${show(spread.max)}` : "–"}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
