import type { Finding } from "@perceptum/core/findings";
import { memo } from "react";
import styled from "styled-components";
import { useSession } from "../hooks/context";
import { usePublished } from "../hooks/usePublished";
import { STAGES } from "../model/stages";
import { Empty, Title } from "../ui/layout";
import { lazily } from "../ui/lazily";
import { pressing } from "./pressing";

// Findings come after the first screen, and what shows them with them.
const FindingEntry = lazily(() => import("./FindingEntry").then((m) => m.FindingEntry));

const List = styled.ul`
  list-style: none;
  margin: 2px 0 10px;
  padding: 0;
`;
const Summary = styled.summary`
  font-size: 12px;
  color: ${({ theme }) => theme.ink2};
  cursor: default;
`;
/** What will go wrong at this stage: what, how many, and what to do. */
export const FindingList = memo(function FindingList({ stage }: { stage: Finding["place"]["stage"] }) {
  const all = usePublished(useSession().mentor.findings).list;
  const there = all.filter((finding) => finding.place.stage === stage);
  const here = there.filter((finding) => !finding.aside);
  // The most serious one stands in the line above the stage, with all that it says.
  const [above] = pressing(all, stage);
  const aside = there.filter((finding) => finding.aside);
  return (
    <section aria-label="Findings">
      <Title style={{ marginTop: 12 }}>Findings</Title>
      {here.length === 0 ? (
        <Empty style={{ padding: "4px 0" }}>{noneHere(all)}</Empty>
      ) : (
        <List>
          {keyed(here).map(([key, finding]) => (
            <FindingEntry key={key} finding={finding} above={finding === above} />
          ))}
        </List>
      )}
      {aside.length > 0 && (
        <details>
          <Summary>Put aside: {aside.length}</Summary>
          <List aria-label="Findings put aside">
            {keyed(aside).map(([key, finding]) => (
              <FindingEntry key={key} finding={finding} />
            ))}
          </List>
        </details>
      )}
    </section>
  );
});

/** Each finding with a key that it keeps while others come and go before it, so that its buttons keep the focus. */
function keyed(findings: readonly Finding[]): [key: string, finding: Finding][] {
  const count = new Map<string, number>();
  return findings.map((finding) => {
    const name = `${finding.code} ${finding.title}`;
    const n = (count.get(name) ?? 0) + 1;
    count.set(name, n);
    return [`${name} ${n}`, finding];
  });
}

/** That a stage has no findings, and which stages have some: `None here, 1 in Decide.` */
function noneHere(all: readonly Finding[]): string {
  const open = STAGES.flatMap(({ id, name }) => {
    const count = all.filter(({ place, aside }) => place.stage === id && !aside).length;
    return count === 0 ? [] : [`${count} in ${name}`];
  });
  return open.length === 0 ? "None." : `None here, ${open.join(", ")}.`;
}
