import { joinProject, type Project } from "@perceptum/core/project";
import { framesOf, type TapeHead } from "@perceptum/core/readings";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { useSessions } from "../hooks/context";
import { Frames } from "../model/session/Frames";
import type { KeptWork, Unsent } from "../model/session/kept";
import { Readings } from "../model/session/Readings";
import { Button } from "../ui/Button";
import { Spacer } from "../ui/layout";

const Row = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 14px;
  margin-bottom: 10px;
  border: 1px solid ${({ theme }) => theme.ink};
  border-radius: ${({ theme }) => theme.radius};
`;

/** Kept changes with all that can still be had of them, and how many tapes of them cannot. */
interface Orphan {
  kept: Unsent;
  project: Project;
  lost: number;
}

/** Puts together a deleted project from this browser and from the server, which clears it away after a day. */
async function orphanOf(kept: Unsent, browser: KeptWork): Promise<Orphan> {
  const { project: id, document } = kept;
  const readings = new Readings(id, new AbortController().signal);
  const frames = new Frames(id);
  for (const tape of document.tapes) {
    const own = await browser.readings(id, tape.id);
    if (own === undefined) await readings.load([tape.id]).catch(() => undefined);
    else readings.add(tape.id, own);
  }
  for (const name of framesOf(document.tapes)) {
    const own = await browser.frame(id, name);
    if (own !== undefined) frames.add(name, own);
  }
  const tapes: TapeHead[] = [];
  const held: Record<string, string> = {};
  for (const tape of document.tapes) {
    const own = await frames.forFile(framesOf([tape])).catch(() => undefined);
    if (own === undefined || !readings.all.has(tape.id)) continue;
    tapes.push(tape);
    Object.assign(held, own);
  }
  return {
    kept,
    project: joinProject({ ...document, tapes }, readings.all, held),
    lost: document.tapes.length - tapes.length,
  };
}

/**
 * Changes that this browser keeps of projects which the server does not have any more.
 *
 * @param onAdd adds one as a new project; what is kept is forgotten only where that says that it did.
 */
export function Orphans({ known, onAdd }: { known: readonly string[]; onAdd: (project: Project) => Promise<boolean> }) {
  const { kept: browser } = useSessions().surroundings;
  const [orphans, setOrphans] = useState<readonly Orphan[]>([]);
  const ids = known.join(" ");
  useEffect(() => {
    let current = true;
    const find = async () => {
      const all = (await browser.changes()).filter(({ project }) => !ids.split(" ").includes(project));
      const { remade } = await import("../model/session/remade");
      const found = await Promise.all(all.map((change) => orphanOf(remade(change), browser)));
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
    await browser.forgetFrames(project, framesOf(document.tapes));
  };
  const restore = async (orphan: Orphan) => {
    if (await onAdd(orphan.project)) await forget(orphan);
  };
  return orphans.map((orphan) => (
    <Row key={`${orphan.kept.project} ${orphan.kept.window}`} role="status">
      <span>
        “{orphan.kept.document.name}” was deleted, but this browser keeps changes of it from{" "}
        {new Date(orphan.kept.at).toLocaleString()}
        {orphan.lost > 0 &&
          `, without ${orphan.lost === 1 ? "one tape" : `${orphan.lost} tapes`}: what was recorded there lay only at the server`}
        .
      </span>
      <Spacer />
      <Button $small onPress={() => void forget(orphan)}>
        Discard
      </Button>
      <Button $small onPress={() => void restore(orphan)}>
        Restore as a new project
      </Button>
    </Row>
  ));
}
