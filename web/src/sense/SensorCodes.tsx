import type { TargetId } from "@perceptum/core/names";
import { useProject } from "../hooks/project";
import { Button } from "../ui/Button";
import { Box } from "../ui/EntryField";
import { Group } from "../ui/fields";
import { Select } from "../ui/Select";
import type { Draft } from "./sensorDraft";

/** Which code stands for which target. */
export function Codes({ draft, change }: { draft: Draft; change: (part: Partial<Draft>) => void }) {
  const { targets } = useProject();
  const set = (i: number, part: Partial<Draft["codes"][number]>) =>
    change({ codes: draft.codes.map((c, k) => (k === i ? { ...c, ...part } : c)) });
  return (
    <Group>
      <legend>What its codes stand for</legend>
      {draft.codes.map(({ code, target }, i) => (
        <span key={i} style={{ display: "flex", gap: 8, alignItems: "center" }}>
          <Box aria-label={`Code ${i + 1}`} value={code} onChange={(event) => set(i, { code: event.target.value })} />
          <Select
            label={`Target of code ${code}`}
            hideLabel
            value={target as string}
            options={targets.map((t) => ({ id: t.id as string, text: t.name }))}
            onChange={(id) => set(i, { target: id as TargetId })}
          />
          <Button
            $small
            aria-label={`Leave out code ${code}`}
            onPress={() => change({ codes: draft.codes.toSpliced(i, 1) })}
          >
            ×
          </Button>
        </span>
      ))}
      <Button
        $small
        isDisabled={targets.length === 0}
        onPress={() => {
          const next = Math.max(0, ...draft.codes.map((c) => Number(c.code) || 0)) + 1;
          const free = targets.find((t) => !draft.codes.some((c) => c.target === t.id)) ?? targets[0];
          change({ codes: [...draft.codes, { code: String(next), target: free.id }] });
        }}
      >
        Add a code
      </Button>
    </Group>
  );
}
