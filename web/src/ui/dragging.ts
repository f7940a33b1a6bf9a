import { type RefObject, useRef } from "react";
import { type DragResult, useDrag } from "react-aria/useDrag";
import { useDrop } from "react-aria/useDrop";

/** What came of a drag: the thing is moved, or a copy of it made. */
export type Dropped = "move" | "copy";

/**
 * A thing that is dragged onto another by pointer or touch, and by keyboard from a button of its own: Enter picks it up,
 * Tab goes from place to place, Enter puts it down, Escape leaves it where it was. Each is announced.
 *
 * @param kind what it is, so that it is put down only where such things go
 */
export const useThingDrag = (
  kind: string,
  id: string,
  words: string,
  allowed: readonly Dropped[] = ["move"],
): DragResult =>
  useDrag({
    getItems: () => [{ [kind]: id, "text/plain": words }],
    getAllowedDropOperations: () => [...allowed],
    hasDragButton: true,
  });

/** A place where things of a kind are put down; `take` is given the id of one. */
export function useThingDrop<E extends HTMLElement>(
  kind: string,
  take: (id: string, how: Dropped) => void,
): { place: RefObject<E | null>; dropProps: React.HTMLAttributes<HTMLElement>; isOver: boolean } {
  const place = useRef<E>(null);
  const { dropProps, isDropTarget } = useDrop({
    ref: place,
    getDropOperation: (types, allowed) => (types.has(kind) ? allowed[0] : "cancel"),
    async onDrop({ items, dropOperation }) {
      const [item] = items;
      if (item?.kind === "text") take(await item.getText(kind), dropOperation === "copy" ? "copy" : "move");
    },
  });
  return { place, dropProps, isOver: isDropTarget };
}
