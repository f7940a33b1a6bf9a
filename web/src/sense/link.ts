import type { Link } from "@perceptum/core/live";
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

/** A link that goes so: the project's own of its kind, or a new one of an id that a robot's program can keep. */
export function linkGoing<K extends LinkKind>(project: Pick<ProjectDocument, "links">, over: Over<K>): Link {
  const known = linkOver(project, over.kind);
  if (known !== undefined) return { ...known, over };
  const id = `link-${crypto.randomUUID().replaceAll("-", "").slice(0, 12)}`;
  return { id, name: NAMES[over.kind], over };
}
/** Where a robot sends to. */
export const addressOf = ({ id }: Link): string => `${window.location.origin}/api/links/${id}/readings`;
