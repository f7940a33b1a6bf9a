import { type Link, listensOf, readAddress, robotNames } from "@perceptum/core/live";
import type { SensorId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import { isCamera, type Sensor } from "@perceptum/core/readings";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useStore } from "react-redux";
import styled from "styled-components";
import { browserSerial } from "../browser/serial";
import { useSession } from "../hooks/context";
import { useEdit, useProject, useSensor } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { usePublished, usePublishedPart } from "../hooks/usePublished";
import { LightSelect } from "../lights/LightSelect";
import { LinkStream } from "../model/live/LinkStream";
import { PortLink } from "../model/live/PortLink";
import { type LinkNow, OpenLink, type RobotLink } from "../model/live/RobotLink";
import { ServerLink } from "../model/live/ServerLink";
import { Published } from "../model/Published";
import { liveLightSet } from "../model/store/sense";
import type { AppState } from "../model/store/store";
import { Button } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Dim, Head, Spacer, Title } from "../ui/layout";
import { Select } from "../ui/Select";
import { ActPanel, Commanded } from "./ActPanel";
import { Address, addressOf, type LinkKind, linkGoing, linkOver } from "./link";
import { Recorder } from "./Stand";

const Row = styled.div`
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  gap: 8px;
  align-items: first baseline;
  padding: 2px 0;
  & > span:first-child { color: ${({ theme }) => theme.ink2}; }
`;
/** Stands out from the words beside it: it tells of the link's or the robot's end. */
const Told = styled.p`
  font-weight: 600;
  padding: 6px 0;
`;
const Words = styled(Dim)`
  display: block;
  font-size: 11.5px;
  white-space: normal;
`;

const BAUDS = [9600, 19_200, 38_400, 57_600, 115_200, 230_400, 460_800, 921_600];
/** So many names that the project does not know are asked for at a time. */
const MOST_STRANGERS = 8;
const NO_LINK = new Published<LinkNow | null>(null);

/** The link to a robot: what it sends is shown and recorded, and the behaviour may act on it. */
export function LinkPanel() {
  const session = useSession();
  const project = useProject();
  const sensor = useSensor();
  const edit = useEdit();
  const light = useAppSelector((state) => state.sense.liveLight);
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  const [kind, setKind] = useState<LinkKind>(project.links?.at(-1)?.over.kind ?? (isCamera(sensor) ? "http" : "line"));
  const held = session.service(OpenLink);
  const link = usePublished(held);
  const setLink = useCallback((next: RobotLink | null) => held.set(next), [held]);
  const [said, setSaid] = useState<string | null>(null);
  /** The last link's state when it was over. */
  const [over, setOver] = useState<LinkNow | null>(null);
  const now = usePublished<LinkNow | null>(link?.now ?? NO_LINK);
  const trouble = usePublishedPart(session.bench.live, (l) => l.trouble);
  const known = linkOver(project, kind);
  const address = known?.over.kind === "line" ? known.over.address : "";
  const baud = known?.over.kind === "port" ? known.over.baud : 115_200;
  const open = now?.phase === "open" ? link : null;
  // Leaving Sense ends the link, and with it what acts.
  useEffect(() => () => link?.end(), [link]);
  useEffect(() => () => setLink(null), [setLink]);
  useEffect(() => {
    if (now?.phase !== "closed") return;
    setSaid(now.trouble);
    setOver(now);
    setLink(null);
  }, [now, setLink]);
  // The server judges what is sent by the sensors as they are now.
  const { sensors, links } = project;
  useEffect(() => link?.listenBy(listensOf({ sensors, links })), [link, sensors, links]);
  const { strangers, isOwn, heardOf } = useStrangers(project, sensor);
  // The stream asks for the light, so that a recording goes on where it changes.
  const lightNow = useCallback(() => store.getState().sense.liveLight, [store]);
  useEffect(() => {
    if (open === null || isCamera(sensor)) return;
    session.bench.start((live) => new LinkStream(sensor, open, lightNow, live, isOwn, heardOf));
    return () => {
      session.keepRecording();
      session.bench.stop();
    };
  }, [session, sensor, open, lightNow, isOwn, heardOf]);

  const begin = () => {
    setSaid(null);
    setOver(null);
    if (kind === "port") {
      if (known === undefined) edit("setLink", { link: linkGoing(project, { kind, baud }) });
      setLink(new PortLink(baud, browserSerial(), session.surroundings));
      return;
    }
    if (kind === "line" && address === "") return setSaid("Say first where the robot is.");
    // Where it is new, the project knows its id from now on.
    const made = kind === "http" && known === undefined ? linkGoing(project, { kind }) : known;
    if (made !== undefined && made !== known) edit("setLink", { link: made });
    setLink(new ServerLink(made?.id ?? "", kind === "line" ? address : null, listensOf(project)));
  };
  return (
    <section aria-label="Link">
      <Head style={{ marginBottom: 2 }}>
        <Title>Link</Title>
        <Spacer />
        <Button $small $main={link === null} onPress={() => (link === null ? begin() : setLink(null))}>
          {link === null ? "Open the link" : "Close the link"}
        </Button>
      </Head>
      {link === null && (
        <LinkWay
          kind={kind}
          onKind={(chosen) => {
            setKind(chosen);
            setSaid(null);
          }}
        />
      )}
      {said !== null && <Told role="alert">{said}</Told>}
      {now?.trouble != null && <Told role="alert">{now.trouble}</Told>}
      {trouble !== null && <Told role="alert">{trouble}</Told>}
      {now?.phase === "opening" && <Words role="status">It is being opened …</Words>}
      {link === null && (
        <Words>
          {kind === "port" && browserSerial() === undefined
            ? "Closed. This browser has no serial ports; Chromium has them."
            : `Closed. Open it, and what a robot sends of ${sensor.name} is shown and can be recorded.`}
        </Words>
      )}
      {kind === "http" && (
        <Words>
          What runs on this computer can send by POST, nothing else. A robot that stands apart is linked by TCP, serial
          or MQTT.
        </Words>
      )}
      {link === null && over !== null && <Commanded moments={over.moments} counts={over.counts} />}
      {open !== null && (
        <>
          {kind === "http" && known !== undefined ? (
            <WhereToSend link={known} />
          ) : (
            <Words>Open{kind === "line" ? ` at ${address}` : ""}.</Words>
          )}
          {known !== undefined && <Strangers link={known} names={strangers} />}
          <ActPanel link={open} hears={kind === "http" ? known : undefined} />
          {!isCamera(sensor) && (
            <>
              <Row>
                <span>light</span>
                <LightSelect
                  label="Light that the robot is in"
                  hideLabel
                  light={light ?? undefined}
                  onChange={(chosen) => dispatch(liveLightSet(chosen ?? null))}
                />
              </Row>
              <Recorder />
            </>
          )}
        </>
      )}
    </section>
  );
}

/** Names that came and that the project does not know, and how a stream asks whether one is the sensor's that is watched. */
function useStrangers(project: ProjectDocument, sensor: Sensor) {
  const [strangers, setStrangers] = useState<readonly string[]>([]);
  const names = useMemo(() => {
    const all = new Map<string, string>(robotNames(project));
    for (const { id, name } of project.sensors) all.set(name, id).set(id, id);
    return all;
  }, [project]);
  const latest = useRef(names);
  latest.current = names;
  const sensorId = sensor.id;
  const isOwn = useCallback(
    (name: string) => {
      const id = latest.current.get(name);
      return id === undefined ? undefined : id === sensorId;
    },
    [sensorId],
  );
  const heardOf = useCallback(
    (name: string) => setStrangers((all) => (all.includes(name) ? all : [...all, name].slice(0, MOST_STRANGERS))),
    [],
  );
  return { strangers: strangers.filter((name) => !names.has(name)), isOwn, heardOf };
}

/** How the robot is linked, and where it is. */
function LinkWay({ kind, onKind }: { kind: LinkKind; onKind: (kind: LinkKind) => void }) {
  const project = useProject();
  const edit = useEdit();
  const known = linkOver(project, kind);
  const address = known?.over.kind === "line" ? known.over.address : "";
  const baud = known?.over.kind === "port" ? known.over.baud : 115_200;
  return (
    <>
      <Row>
        <span>robot</span>
        <Select
          label="How the robot is linked"
          hideLabel
          value={kind}
          options={[
            { id: "line" as const, text: "TCP, serial or MQTT" },
            { id: "port" as const, text: "serial port of this browser" },
            { id: "http" as const, text: "POST from this computer" },
          ]}
          onChange={onKind}
        />
      </Row>
      {kind === "line" && (
        <Row>
          <span>where</span>
          <div>
            <EntryField
              label="Address of the robot"
              text={address}
              wide
              placeholder="tcp://192.168.1.20:4190"
              take={(text) => {
                const read = readAddress(text.trim());
                if ("problem" in read) return read.problem;
                if (read.by === "stdio") return "Only a terminal has a standard input.";
                return edit("setLink", { link: linkGoing(project, { kind: "line", address: text.trim() }) });
              }}
            />
          </div>
        </Row>
      )}
      {kind === "port" && (
        <Row>
          <span>speed</span>
          <Select
            label="Speed of the port"
            hideLabel
            value={String(baud)}
            options={BAUDS.map((rate) => ({ id: String(rate), text: `${rate} baud` }))}
            onChange={(rate) => edit("setLink", { link: linkGoing(project, { kind: "port", baud: Number(rate) }) })}
          />
        </Row>
      )}
    </>
  );
}

/** Where a program sends what, by POST. */
function WhereToSend({ link }: { link: Link }) {
  const sensor = useSensor();
  return isCamera(sensor) ? (
    <>
      <Words>Open. A program sends each picture by a POST of its own, as PNG, JPEG or WebP, to</Words>
      <Address>{addressOf(link)}</Address>
      <Address>{`curl --data-binary @frame.png -H "Content-Type: image/png" ${addressOf(link)}`}</Address>
    </>
  ) : (
    <>
      <Words>Open. A program sends its readings by POST, a JSON object a line, as application/jsonl to</Words>
      <Address>{addressOf(link)}</Address>
      <Address>{`{"s":"${sensor.id}","t":0,"v":[…]}`}</Address>
    </>
  );
}

/** What a robot sends under names that the project does not know: each may be said to be one of its sensors. */
function Strangers({ link, names }: { link: Link; names: readonly string[] }) {
  const project = useProject();
  const edit = useEdit();
  return names.map((name) => (
    <Row key={name} role="alert">
      <span title={name} style={{ overflow: "hidden", textOverflow: "ellipsis" }}>
        {name}
      </span>
      <Select
        label={`Which sensor ${name} is`}
        hideLabel
        value={null as string | null}
        placeholder="is which sensor?"
        options={project.sensors.map(({ id, name: own }) => ({ id: id as string, text: own }))}
        onChange={(id) => edit("nameRobotSensor", { link: link.id, name, sensor: id as SensorId })}
      />
    </Row>
  ));
}
