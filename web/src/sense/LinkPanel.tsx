import { useEffect, useState } from "react";
import { useSession } from "../session/context";
import { usePublishedPart } from "../session/Published";
import { useEdit, useProject, useSensor } from "../session/project";
import { useAppSelector } from "../state/store";
import { Button } from "../ui/Button";
import { Dim, Empty, Head, Spacer, Title } from "../ui/layout";
import { LinkStream } from "./LinkStream";
import { Address, addressOf, httpLink, TAKEN, withHttpLink } from "./link";
import { Recorder } from "./Stand";

/** The link over which a robot's readings come: opened, recorded, closed. */
export function LinkPanel() {
  const session = useSession();
  const project = useProject();
  const sensor = useSensor();
  const edit = useEdit();
  const light = useAppSelector((state) => state.sense.stand.light);
  const link = httpLink(project);
  const [open, setOpen] = useState(false);
  const [taken, setTaken] = useState(false);
  const trouble = usePublishedPart(session.bench.live, (l) => l.trouble);
  const id = open ? link?.id : undefined;
  useEffect(() => {
    if (id === undefined) return;
    const gone = () => {
      setOpen(false);
      setTaken(true);
    };
    session.bench.start((live) => new LinkStream(sensor, id, light, live, gone));
    return () => {
      session.keepRecording();
      session.bench.stop();
    };
  }, [session, sensor, id, light]);
  return (
    <section aria-label="Link">
      <Head style={{ marginBottom: 2 }}>
        <Title>Link</Title>
        <Spacer />
        <Button
          $small
          $main={!open}
          onPress={() => {
            setTaken(false);
            if (!open && link === undefined) edit("adding a link", withHttpLink);
            setOpen(!open);
          }}
        >
          {open ? "Close the link" : "Open the link"}
        </Button>
      </Head>
      {taken && <Empty role="alert">{TAKEN}</Empty>}
      {trouble !== null && <Empty role="alert">{trouble}</Empty>}
      {open && link !== undefined ? (
        <>
          <Dim style={{ fontSize: 11.5, whiteSpace: "normal" }}>
            Open. A robot sends its readings by POST, a JSON object a line, as application/jsonl to
          </Dim>
          <Address>{addressOf(link)}</Address>
          <Address>{`{"s":"${sensor.id}","t":0,"v":[…]}`}</Address>
          <Recorder />
        </>
      ) : (
        <Dim style={{ fontSize: 11.5, whiteSpace: "normal" }}>
          Closed. Open it, and what a robot sends of {sensor.name} is shown and can be recorded.
        </Dim>
      )}
    </section>
  );
}
