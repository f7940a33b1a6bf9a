import dagre from "@dagrejs/dagre";
import { factsOf, type Response, targetsOf } from "@perceptum/core/behaviour";
import type { ModeId } from "@perceptum/core/names";
import { useMemo } from "react";
import styled from "styled-components";
import { useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { cellChosen } from "../model/store/act";
import { amount } from "../ui/amount";
import { triggerWords } from "./triggerWords";

const Room = styled.div`
  overflow: auto;
  flex: 1;
  min-height: 0;
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme }) => theme.rule};
  & svg { display: block; margin: auto; font-size: 12px; }
  & text { fill: ${({ theme }) => theme.ink}; }
  & [role="button"] { cursor: default; outline: none; }
  & [role="button"]:focus-visible rect, & [role="button"][aria-pressed="true"] rect { stroke: ${({ theme }) => theme.ink}; stroke-width: 2.5; }
  & .node > rect { fill: ${({ theme }) => theme.panel}; stroke: ${({ theme }) => theme.ink2}; }
  & .label > rect { fill: ${({ theme }) => theme.sheet}; stroke: ${({ theme }) => theme.rule}; }
  & .edge { fill: none; stroke: ${({ theme }) => theme.ink2}; stroke-width: 1.2; }
`;

/** Words of a drawing that are cut where there is no room for more. */
const Cut = styled.div`
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  line-height: 18px;
`;

/** A change of mode: which response makes it, and where it leads. */
interface Change {
  from: ModeId;
  to: ModeId | "finish";
  response: Response;
}
const NODE = { width: 150, height: 46 };
const LABEL = { width: 176, height: 24 };
const FINISH = "(finish)";

interface Drawing {
  width: number;
  height: number;
  nodes: { id: string; x: number; y: number }[];
  edges: { change: Change; x: number; y: number; points: { x: number; y: number }[] }[];
}

/** Lays modes out from top to bottom, each change of mode as an arrow with its trigger on it. */
function laidOut(modes: readonly { id: ModeId; responses: readonly Response[] }[]): Drawing {
  const graph = new dagre.graphlib.Graph({ multigraph: true });
  graph.setGraph({ rankdir: "TB", nodesep: 14, ranksep: 34, edgesep: 12, marginx: 16, marginy: 16 });
  graph.setDefaultEdgeLabel(() => ({}));
  const changes = modes.flatMap((mode) =>
    mode.responses.flatMap((response): Change[] => [
      ...(response.then === undefined ? [] : [{ from: mode.id, to: response.then, response }]),
      ...response.steps.flatMap((step): Change[] => {
        const { leadsTo } = factsOf(step);
        return leadsTo === undefined ? [] : [{ from: mode.id, to: leadsTo, response }];
      }),
    ]),
  );
  for (const mode of modes) graph.setNode(mode.id, { ...NODE });
  if (changes.some((c) => c.to === "finish")) graph.setNode(FINISH, { width: 70, height: 30 });
  changes.forEach((change, i) => {
    graph.setEdge(change.from, change.to === "finish" ? FINISH : change.to, { ...LABEL, labelpos: "c" }, String(i));
  });
  dagre.layout(graph);
  const size = graph.graph() as { width?: number; height?: number };
  return {
    width: size.width ?? 200,
    height: size.height ?? 100,
    nodes: graph.nodes().map((id) => {
      const { x, y } = graph.node(id) as { x: number; y: number };
      return { id, x, y };
    }),
    edges: graph.edges().map((edge) => {
      const { points, x, y } = graph.edge(edge) as { points: { x: number; y: number }[]; x: number; y: number };
      return { change: changes[Number(edge.name)], points, x, y };
    }),
  };
}

/** The modes as nodes and what leads from one to another as arrows; a node or an arrow is chosen and edited beside. */
export function ModeDiagram() {
  const project = useProject();
  const { modes, start } = project.behaviour;
  const dispatch = useAppDispatch();
  const cell = useAppSelector((state) => state.act.cell);
  const drawing = useMemo(() => laidOut(modes), [modes]);
  const press = (choose: () => void) => ({
    tabIndex: 0,
    onClick: choose,
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      choose();
    },
  });
  return (
    <Room>
      {/* biome-ignore lint/a11y/useSemanticElements: a fieldset cannot stand in a drawing */}
      <svg
        viewBox={`0 0 ${drawing.width} ${drawing.height}`}
        style={{ width: drawing.width, maxWidth: "100%" }}
        role="group"
        aria-label="Modes and what leads from one to another"
      >
        <defs>
          <marker
            id="arrow-of-modes"
            viewBox="0 0 8 8"
            refX="7"
            refY="4"
            markerWidth="8"
            markerHeight="8"
            orient="auto"
          >
            <path d="M0 0L8 4L0 8z" fill="currentColor" />
          </marker>
        </defs>
        {drawing.edges.map(({ points, change }, i) => (
          <path
            key={`${i} ${change.response.id}`}
            className="edge"
            markerEnd="url(#arrow-of-modes)"
            d={`M${points.map((p) => `${p.x} ${p.y}`).join("L")}`}
          />
        ))}
        {drawing.edges.map(({ change, x, y }, i) => {
          const words = triggerWords(change.response.when, project);
          const chosen =
            cell !== null && "response" in cell && cell.response === change.response.id && cell.mode === change.from;
          const chips = targetsOf(change.response.when);
          return (
            // biome-ignore lint/a11y/useSemanticElements: a button element cannot stand in a drawing
            <g
              key={`${i} ${change.response.id}`}
              role="button"
              className="label"
              aria-pressed={chosen}
              aria-label={`${words}, from ${modes.find((m) => m.id === change.from)?.name} to ${modes.find((m) => m.id === change.to)?.name ?? "the end"}`}
              {...press(() => dispatch(cellChosen({ mode: change.from, response: change.response.id })))}
            >
              <rect x={x - LABEL.width / 2} y={y - LABEL.height / 2} width={LABEL.width} height={LABEL.height} rx="3" />
              {chips.slice(0, 3).map((id, k) => (
                <rect
                  key={id}
                  x={x - LABEL.width / 2 + 6 + k * 13}
                  y={y - 5}
                  width="10"
                  height="10"
                  style={{ fill: project.targets.find((t) => t.id === id)?.paint, stroke: "none" }}
                />
              ))}
              <foreignObject
                x={x - LABEL.width / 2 + 9 + Math.min(3, chips.length) * 13}
                y={y - 9}
                width={LABEL.width - 14 - Math.min(3, chips.length) * 13}
                height="18"
              >
                <Cut>{words}</Cut>
              </foreignObject>
            </g>
          );
        })}
        {drawing.nodes.map(({ id, x, y }) => {
          const mode = modes.find((m) => m.id === id);
          if (mode === undefined)
            return (
              <g key={id} className="node">
                <rect x={x - 35} y={y - 15} width="70" height="30" rx="15" />
                <text x={x} y={y + 4} textAnchor="middle">
                  finish
                </text>
              </g>
            );
          const chosen = cell !== null && "entering" in cell && cell.mode === mode.id;
          const told = `${mode.id === start ? "starts here · " : ""}${amount(mode.responses.length, "response")}`;
          return (
            // biome-ignore lint/a11y/useSemanticElements: a button element cannot stand in a drawing
            <g
              key={id}
              role="button"
              className="node"
              aria-pressed={chosen}
              aria-label={`Mode ${mode.name}, ${told}`}
              {...press(() => dispatch(cellChosen({ mode: mode.id, entering: true })))}
            >
              <rect x={x - NODE.width / 2} y={y - NODE.height / 2} width={NODE.width} height={NODE.height} rx="3" />
              <foreignObject x={x - NODE.width / 2 + 4} y={y - 16} width={NODE.width - 8} height="18">
                <Cut style={{ textAlign: "center", fontWeight: 700 }}>{mode.name}</Cut>
              </foreignObject>{" "}
              <text x={x} y={y + 14} textAnchor="middle" fontSize="11">
                {told}
              </text>
            </g>
          );
        })}
      </svg>
    </Room>
  );
}
