import { byColour } from "@perceptum/core/readings";
import { memo, useMemo } from "react";
import { useSession } from "../hooks/context";
import { usePublishedPart } from "../hooks/usePublished";
import { amount } from "../ui/amount";
import { Button } from "../ui/Button";
import { Dim, Empty, Head, Kbd, Num, SideBySide, Spacer, Title } from "../ui/layout";
import { RangeStatistics } from "./RangeStatistics";
import { ReadingNow } from "./ReadingNow";

/** The live reading, and what the last second was like: a value to note down is a steady one. */
export function BenchPane({ live }: { live: boolean }) {
  const { bench, blocks } = useSession();
  const sensor = usePublishedPart(bench.live, (l) => l.sensor);
  const readings = usePublishedPart(bench.live, (l) => l.readings);
  const frozen = usePublishedPart(bench.live, (l) => l.frozen);
  const shown = useMemo(() => {
    if (sensor === null || readings.t.length === 0) return null;
    const block = blocks.of(readings, sensor);
    const index = block.length - 1;
    return { block, raw: byColour(readings.channels, sensor), index, from: block.indexAt(block.t[index] - 1000) };
  }, [blocks, sensor, readings]);
  if (shown === null)
    return (
      <Empty>
        {live
          ? sensor === null
            ? "The link is closed. Open it on the right."
            : "The link is open; no reading of this sensor has come yet."
          : "The bench sensor begins to stream."}
      </Empty>
    );
  const { block, raw, index, from } = shown;
  return (
    <SideBySide>
      <ReadingNow
        block={block}
        raw={raw}
        index={index}
        label="Live reading"
        title={frozen ? "Live reading, frozen" : "Live reading"}
      />
      <section aria-label="The last second">
        <Head style={{ marginBottom: 0, minHeight: 22 }}>
          <Title>The last second</Title>
          <Dim>{amount(index - from + 1, "reading")}</Dim>
          <Spacer />
          <Freezing />
        </Head>
        <RangeStatistics block={block} raw={raw} from={from} to={index + 1} label="The last second" />
      </section>
    </SideBySide>
  );
}

/** The rate of readings, and the button that has them stand still: not drawn anew with each of them. */
const Freezing = memo(function Freezing() {
  const { bench } = useSession();
  const frozen = usePublishedPart(bench.live, (l) => l.frozen);
  const rate = usePublishedPart(bench.live, (l) => Math.round(l.rate));
  return (
    <>
      <Num aria-label="Readings a second">{rate} /s</Num>
      <Button $small onPress={() => bench.freeze(!frozen)} aria-pressed={frozen}>
        {frozen ? "Go on" : "Freeze"}
      </Button>
      <Kbd>F</Kbd>
    </>
  );
});
