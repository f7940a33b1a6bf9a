import type { Link } from "@perceptum/core/live";
import { useEffect, useMemo } from "react";
import styled from "styled-components";
import { saveFile } from "../browser/saveFile";
import { useProject } from "../hooks/project";
import { usePublished } from "../hooks/usePublished";
import type { LinkNow, RobotLink } from "../model/live/RobotLink";
import { NoteList } from "../tape/NoteList";
import { amount } from "../ui/amount";
import { Button } from "../ui/Button";
import { Dim, Head, Kbd, Spacer, Title } from "../ui/layout";
import { Address, addressOf } from "./link";

const Stop = styled(Button)`
  width: 100%;
  min-height: 44px;
  margin: 4px 0;
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: center;
  font-size: 16px;
  font-weight: 700;
  background: ${({ theme }) => theme.ink};
  color: ${({ theme }) => theme.sheet};
  & kbd { color: ${({ theme }) => theme.ink}; }
`;
const Words = styled(Dim)`
  display: block;
  font-size: 11.5px;
  white-space: normal;
`;
const Notes = styled.div`
  display: flex;
  max-height: 170px;
`;
/** So many of the last notes are listed. */
const LISTED = 60;

/** Lets the behaviour act on the robot of a link, and stops it: what was commanded and what happened meanwhile. */
export function ActPanel({ link, hears }: { link: RobotLink; hears: Link | undefined }) {
  const project = useProject();
  const { acting, moments, counts } = usePublished(link.now);
  // A changed rule acts from the next reading on.
  useEffect(() => {
    link.follow(project);
  }, [link, project]);
  useEffect(() => {
    if (!acting) return;
    const stop = (event: KeyboardEvent) => {
      if (event.key !== "Escape") return;
      event.preventDefault();
      event.stopPropagation();
      link.stop();
    };
    window.addEventListener("keydown", stop, { capture: true });
    return () => window.removeEventListener("keydown", stop, { capture: true });
  }, [link, acting]);
  return (
    <section aria-label="Behaviour on the robot">
      <Head style={{ margin: "10px 0 2px" }}>
        <Title>{acting ? "The behaviour acts" : "Watch only"}</Title>
        <Spacer />
        {!acting && (
          <Button $small $main onPress={() => link.act(project)}>
            Let it act
          </Button>
        )}
      </Head>
      {acting ? (
        <Stop onPress={() => link.stop()}>
          Stop <Kbd>Esc</Kbd>
        </Stop>
      ) : (
        <Words>The robot moves when the behaviour acts. Stop, Esc, or leaving this page makes it brake at once.</Words>
      )}
      {hears !== undefined && acting && (
        <>
          <Words>It hears what it is told as server-sent events at</Words>
          <Address>{addressOf(hears).replace(/readings$/, "commands")}</Address>
        </>
      )}
      <Commanded moments={moments} counts={counts} />
    </section>
  );
}

/** Lists commands and events since the robot was last let act; the list stays when the line is over. */
export function Commanded({ moments, counts }: Pick<LinkNow, "moments" | "counts">) {
  const project = useProject();
  const notes = useMemo(() => moments.flatMap((moment) => moment.notes), [moments]);
  const commands = useMemo(() => moments.reduce((sum, moment) => sum + moment.commands.length, 0), [moments]);
  const t = moments.at(-1)?.t ?? 0;
  if (moments.length === 0) return null;
  return (
    <>
      <Head style={{ margin: "2px 0" }}>
        <Dim role="status" aria-label="What was commanded">
          {[
            ...(counts === null ? [] : [amount(counts.readings, "reading")]),
            ...(counts === null || counts.refused === 0 ? [] : [`${counts.refused.toLocaleString("en")} refused`]),
            ...(counts === null || counts.beyond === 0
              ? []
              : [`${counts.beyond.toLocaleString("en")} beyond the scale`]),
            ...(counts === null || counts.jumps === 0 ? [] : [`the clock jumped ${amount(counts.jumps, "time")}`]),
            amount(commands, "command"),
          ].join(", ")}
        </Dim>
        <Spacer />
        <Button
          $small
          onPress={() =>
            saveFile(
              "live.trace.jsonl",
              moments.map((moment) => `${JSON.stringify(moment)}\n`).join(""),
              "application/jsonl",
            )
          }
        >
          Save trace
        </Button>
      </Head>
      <Notes>
        <NoteList label="What happened" notes={notes.slice(-LISTED)} project={project} t={t} />
      </Notes>
    </>
  );
}
