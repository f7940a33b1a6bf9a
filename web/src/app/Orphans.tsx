import type { TapeId } from "@perceptum/core/names";
import { joinProject, type Project } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import { useEffect, useState } from "react";
import styled from "styled-components";
import type { Unsent } from "../session/BrowserStore";
import { useSessions } from "../session/context";
import { Button } from "../ui/Button";
import { Spacer } from "../ui/layout";

const Line = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 14px;
  margin-bottom: 10px;
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
`;

/** Kept changes, with the readings that are kept with them, and how many tapes' readings are not. */
interface Orphan {
  kept: Unsent;
  readings: ReadonlyMap<TapeId, RawReadings>;
  lost: number;
}

/**
 * Changes that this browser keeps of projects which the server does not have any more.
 *
 * @param onAdd adds one as a new project; what is kept is forgotten only where that says that it did.
 */
export function Orphans({ known, onAdd }: { known: readonly string[]; onAdd: (project: Project) => Promise<boolean> }) {
  const { browser } = useSessions();
  const [orphans, setOrphans] = useState<readonly Orphan[]>([]);
  const ids = known.join(" ");
  useEffect(() => {
    let current = true;
    const find = async () => {
      const all = (await browser.unsent()).filter(({ project }) => !ids.split(" ").includes(project));
      const found = await Promise.all(
        all.map(async (kept): Promise<Orphan> => {
          const readings = new Map<TapeId, RawReadings>();
          for (const { id } of kept.document.tapes) {
            const own = await browser.readings(kept.project, id);
            if (own !== undefined) readings.set(id, own);
          }
          return { kept, readings, lost: kept.document.tapes.length - readings.size };
        }),
      );
      if (current) setOrphans(found);
    };
    find().catch(() => undefined);
    return () => {
      current = false;
    };
  }, [browser, ids]);

  const forget = async (orphan: Orphan) => {
    const { project, window, document } = orphan.kept;
    setOrphans((all) => all.filter((other) => other !== orphan));
    await browser.forget(project, window);
    await browser.forgetReadings(
      project,
      document.tapes.map((tape) => tape.id),
    );
  };
  const restore = async (orphan: Orphan) => {
    const { kept, readings } = orphan;
    const tapes = kept.document.tapes.filter((tape) => readings.has(tape.id));
    if (await onAdd(joinProject({ ...kept.document, tapes }, readings))) await forget(orphan);
  };
  return orphans.map((orphan) => (
    <Line key={`${orphan.kept.project} ${orphan.kept.window}`} role="status">
      <span>
        “{orphan.kept.document.name}” was deleted, but this browser keeps changes of it from{" "}
        {new Date(orphan.kept.at).toLocaleString()}
        {orphan.lost > 0 &&
          `, without its ${orphan.lost === 1 ? "tape" : `${orphan.lost} tapes`}: those readings lay only at the server`}
        .
      </span>
      <Spacer />
      <Button $small onPress={() => void forget(orphan)}>
        Discard
      </Button>
      <Button $small onPress={() => void restore(orphan)}>
        Restore as a new project
      </Button>
    </Line>
  ));
}
