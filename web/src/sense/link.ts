import type { Link } from "@perceptum/core/live";
import type { SensorId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import styled from "styled-components";

/** An address that one may take whole. */
export const Address = styled.code`
  display: block;
  margin: 6px 0;
  font-family: ${({ theme }) => theme.mono};
  font-size: 12px;
  overflow-wrap: anywhere;
  user-select: all;
`;

export type LinkKind = Link["over"]["kind"];
type Over<K extends LinkKind> = Extract<Link["over"], { kind: K }>;

/** The project's link of a kind; undefined before it has one. */
export const linkOver = ({ links = [] }: Pick<ProjectDocument, "links">, kind: LinkKind): Link | undefined =>
  links.find(({ over }) => over.kind === kind);

const NAMES: Readonly<Record<LinkKind, string>> = { http: "By POST", line: "By a line", port: "By a serial port here" };

/** The project with a link that goes so; of an id that a robot's program can keep. */
export function withLink<K extends LinkKind>(project: ProjectDocument, over: Over<K>): ProjectDocument {
  const { links = [] } = project;
  const known = linkOver(project, over.kind);
  if (known !== undefined)
    return { ...project, links: links.map((link) => (link === known ? { ...link, over } : link)) };
  const id = `link-${crypto.randomUUID().replaceAll("-", "").slice(0, 12)}`;
  return { ...project, links: [...links, { id, name: NAMES[over.kind], over }] };
}
/** The project that knows which of its sensors a robot means by a name. */
export const withRobotName = (project: ProjectDocument, kind: LinkKind, name: string, sensor: SensorId) => ({
  ...project,
  links: (project.links ?? []).map((link) =>
    link.over.kind === kind ? { ...link, sensors: { ...link.sensors, [name]: sensor } } : link,
  ),
});
/** Where a robot sends to. */
export const addressOf = ({ id }: Link): string => `${window.location.origin}/api/links/${id}/readings`;

/** What is said where another page took a link. */
export const TAKEN = "Another page has opened this link. Close it there, then open it here again.";
