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

/** The project's link over HTTP; undefined before it has one. */
export const httpLink = ({ links = [] }: Pick<ProjectDocument, "links">): Link | undefined =>
  links.find(({ over }) => over.kind === "http");

/** The project with a link over HTTP, of an id that a robot's program can keep. */
export const withHttpLink = (project: ProjectDocument): ProjectDocument => {
  const id = `link-${crypto.randomUUID().replaceAll("-", "").slice(0, 12)}`;
  return { ...project, links: [...(project.links ?? []), { id, name: "By POST", over: { kind: "http" } }] };
};

/** Where a robot sends to. */
export const addressOf = ({ id }: Link): string => `${window.location.origin}/api/links/${id}/readings`;
