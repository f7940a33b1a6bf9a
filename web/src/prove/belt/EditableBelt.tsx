import type { TargetId } from "@perceptum/core/names";
import { type BeltCourse, paintsOf } from "@perceptum/core/world";
import { useRef, useState } from "react";
import styled from "styled-components";
import { useEdit, useProject, useTargets } from "../../hooks/project";
import { Chip } from "../../targets/Chip";
import { Button, Choice } from "../../ui/Button";
import { Dim, Empty, Head, Title } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { FieldRow, TargetField } from "../course/fields";
import type { CourseEditProps } from "../courseProps";
import { StillBelt } from "./BeltOfRobot";
import { byShares, inOrder, pieceAdded, pieceMoved, pieceRemoved, pieceRepainted, rowOf } from "./pieceEdit";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 4px 0;
`;
const PieceButton = styled.button<{ $chosen: boolean }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  min-width: 32px;
  min-height: 26px;
  padding: 2px;
  border: 1px solid ${({ theme, $chosen }) => ($chosen ? theme.ink : "transparent")};
  border-radius: ${({ theme }) => theme.radius};
  background: ${({ theme, $chosen }) => ($chosen ? theme.pressed : "none")};
  color: inherit;
  cursor: grab;
  touch-action: none;
`;
const Below = styled.section`
  max-height: 46%;
  overflow: auto;
  flex: none;
  padding-top: 8px;
`;

/** A belt that is edited: as it is before a run, and its pieces below, one by one or by shares. */
export function EditableBelt({ course }: CourseEditProps) {
  if (!("pieces" in course)) return null;
  return (
    <>
      <StillBelt course={course} label={`${course.name} before a run`} />
      <Below aria-label="Pieces">
        <PiecesOf course={course} />
      </Below>
    </>
  );
}

/** Puts the pieces of a changed course into the project. */
function useSetPieces() {
  const edit = useEdit();
  return ({ id, pieces }: BeltCourse) => void edit("setPieces", { course: id, pieces });
}

function PiecesOf({ course }: { course: BeltCourse }) {
  const set = useSetPieces();
  const { targets } = useProject();
  const row = rowOf(course);
  const likely = targets.find((t) => t.kind !== "background" && t.id !== course.ground) ?? targets[0];
  return (
    <>
      <Head style={{ marginBottom: 2 }}>
        <Title>Pieces, the first comes first</Title>
        <Choice
          label="How the pieces come"
          value={row === null ? "shares" : "order"}
          options={[
            { id: "order", text: "One by one" },
            { id: "shares", text: "By shares" },
          ]}
          onChange={(id) => set(id === "order" ? inOrder(course) : byShares(course, likely.id))}
        />
      </Head>
      {row === null ? <Shares course={course} /> : <RowOfPieces course={course} />}
    </>
  );
}

function RowOfPieces({ course }: { course: BeltCourse }) {
  const set = useSetPieces();
  const project = useProject();
  const { targets } = project;
  const byId = useTargets();
  const [chosen, setChosen] = useState<number | null>(null);
  const buttons = useRef<(HTMLButtonElement | null)[]>([]);
  const dragged = useRef<number | null>(null);
  const row = rowOf(course) ?? [];
  const at = chosen !== null && chosen < row.length ? chosen : null;
  const focus = (i: number) => requestAnimationFrame(() => buttons.current[i]?.focus());
  const move = (from: number, to: number) => {
    const within = Math.max(0, Math.min(row.length - 1, to));
    if (within === from) return;
    set(pieceMoved(course, from, within));
    setChosen(within);
    focus(within);
  };
  const remove = (i: number) => {
    set(pieceRemoved(course, i));
    const next = Math.min(i, row.length - 2);
    setChosen(next < 0 ? null : next);
    if (next >= 0) focus(next);
  };
  const add = (target: TargetId) => {
    const made = pieceAdded(course, target, at);
    set(made.course);
    setChosen(made.at);
  };
  return (
    <>
      <Row role="toolbar" aria-label="Add a piece">
        <Dim style={{ alignSelf: "center", fontSize: 12 }}>{at === null ? "Add:" : `Add behind piece ${at + 1}:`}</Dim>
        {targets
          .filter((target) => target.id !== course.ground)
          .map((target) => (
            <Button
              $small
              key={target.id}
              aria-label={`Add ${target.name}, ${target.code}`}
              onPress={() => add(target.id)}
            >
              <Chip target={target} />
            </Button>
          ))}
      </Row>
      {row.length === 0 && <Empty>No piece comes yet. Press what shall come first.</Empty>}
      <Row role="group" aria-label="The row of pieces">
        {row.map((piece, i) => {
          const [id, ...others] = paintsOf(piece);
          const target = byId.get(id);
          const name = others.length > 0 ? `one of ${others.length + 1}` : (target?.name ?? id);
          return (
            <PieceButton
              // Pieces have no names of their own, and one that is moved keeps the focus by its place
              key={i}
              ref={(made) => {
                buttons.current[i] = made;
              }}
              type="button"
              $chosen={i === at}
              tabIndex={i === (at ?? 0) ? 0 : -1}
              aria-pressed={i === at}
              aria-label={`Piece ${i + 1}: ${name}`}
              onClick={() => setChosen(i === at ? null : i)}
              onKeyDown={(event) => {
                const step = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
                if (event.key === "Delete" || event.key === "Backspace") remove(i);
                else if (step !== 0 && i === at) move(i, i + step);
                else if (step !== 0) focus(i + step);
                else return;
                event.preventDefault();
              }}
              onPointerDown={(event) => {
                dragged.current = i;
                event.currentTarget.setPointerCapture(event.pointerId);
              }}
              onPointerUp={(event) => {
                const from = dragged.current;
                dragged.current = null;
                const over = document.elementFromPoint(event.clientX, event.clientY)?.closest("[data-piece]");
                const to = over === null || over === undefined ? from : Number(over.getAttribute("data-piece"));
                if (from !== null && to !== null && to !== from) move(from, to);
              }}
              data-piece={i}
            >
              <Chip target={target} />
              {others.length > 0 && "…"}
            </PieceButton>
          );
        })}
      </Row>
      {at !== null && (
        <FieldRow>
          <TargetField
            label={`Target of piece ${at + 1}`}
            project={project}
            value={paintsOf(row[at])[0]}
            onChange={(target) => set(pieceRepainted(course, at, target))}
          />
          <Button $small onPress={() => remove(at)}>
            Remove
          </Button>
          <Dim>arrow keys move it, Delete removes it</Dim>
        </FieldRow>
      )}
    </>
  );
}

function Shares({ course }: { course: BeltCourse }) {
  const put = useSetPieces();
  const project = useProject();
  const { order } = course.pieces;
  if (Array.isArray(order)) return null;
  const set = (next: typeof order) => put({ ...course, pieces: { ...course.pieces, order: next } });
  const sum = order.draw.reduce((total, { weight }) => total + weight, 0);
  const free = project.targets.find(
    (t) => t.id !== course.ground && order.draw.every((share) => share.target !== t.id),
  );
  return (
    <>
      <FieldRow>
        <NumberField
          label="How many pieces"
          value={order.count}
          low={1}
          high={1000}
          onChange={(v) => set({ ...order, count: Math.round(v) })}
        />
        pieces, drawn by the seed
      </FieldRow>
      {order.draw.map((share, i) => (
        <FieldRow key={i}>
          <TargetField
            label={`Target of share ${i + 1}`}
            project={project}
            value={share.target}
            onChange={(target) => set({ ...order, draw: order.draw.with(i, { ...share, target }) })}
          />
          <NumberField
            label={`Weight of share ${i + 1}`}
            value={share.weight}
            low={0.1}
            high={1000}
            onChange={(weight) => set({ ...order, draw: order.draw.with(i, { ...share, weight }) })}
          />
          {Math.round((100 * share.weight) / sum)} %
          <Button
            $small
            aria-label={`Remove share ${i + 1}`}
            why={order.draw.length === 1 && "It is the only one."}
            onPress={() => set({ ...order, draw: order.draw.toSpliced(i, 1) })}
          >
            ×
          </Button>
        </FieldRow>
      ))}
      <Button
        $small
        why={free === undefined && "Every target has its share."}
        onPress={() => free && set({ ...order, draw: [...order.draw, { target: free.id, weight: 1 }] })}
      >
        Add a share
      </Button>
    </>
  );
}
