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

/**
 * Changes that this browser keeps of projects which the server does not have any more.
 *
 * @param onAdd adds one as a new project; what is kept is forgotten only where that says that it did.
 */
export function Orphans({ known, onAdd }: { known: readonly string[]; onAdd: (project: Project) => Promise<boolean> }) {
  const { browser } = useSessions();
  const [orphans, setOrphans] = useState<readonly Unsent[]>([]);
  const ids = known.join(" ");
  useEffect(() => {
    let current = true;
    browser.unsent().then(
      (all) => current && setOrphans(all.filter(({ project }) => !ids.split(" ").includes(project))),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [browser, ids]);

  const forget = async (orphan: Unsent) => {
    setOrphans((all) => all.filter((other) => other !== orphan));
    await browser.forget(orphan.project, orphan.window);
    await browser.forgetReadings(
      orphan.project,
      orphan.document.tapes.map((tape) => tape.id),
    );
  };
  const restore = async (orphan: Unsent) => {
    const { document, project } = orphan;
    const readings = new Map<TapeId, RawReadings>();
    for (const { id } of document.tapes) {
      const kept = await browser.readings(project, id);
      if (kept !== undefined) readings.set(id, kept);
    }
    // Readings that lay only at the server went with the project.
    const tapes = document.tapes.filter((tape) => readings.has(tape.id));
    if (await onAdd(joinProject({ ...document, tapes }, readings))) await forget(orphan);
  };
  return orphans.map((orphan) => (
    <Line key={`${orphan.project} ${orphan.window}`} role="status">
      <span>
        “{orphan.document.name}” was deleted, but this browser keeps changes of it from{" "}
        {new Date(orphan.at).toLocaleString()}.
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
