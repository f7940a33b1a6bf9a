import type { PartThing } from "@perceptum/core/edits";
import { type Course, courseKindOf } from "@perceptum/core/world";
import { ListBox, ListBoxItem, ListLayout, Virtualizer } from "react-aria-components";
import styled from "styled-components";
import { useTargets } from "../../hooks/project";
import { thingsOf } from "./courseEdit";
import { thingWords } from "./thingWords";

const ROW = 26;

const List = styled(ListBox<{ id: string; of: PartThing }>)`
  margin: 0 0 8px;
  overflow: auto;
  flex: none;
  & [role="option"] {
    padding: 4px 5px;
    height: ${ROW}px;
    font-size: 12px;
    line-height: 18px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    cursor: default;
    color: ${({ theme }) => theme.ink2};
    outline-offset: -2px;
  }
  & [data-hovered] { background: ${({ theme }) => theme.pressed}; color: ${({ theme }) => theme.ink}; }
  & [data-selected] { font-weight: 700; background: ${({ theme }) => theme.pressed}; }
`;

/** So many rows are seen at once. */
const MOST_ROWS = 6.5;

/** All that is on a course, in a list of which only what is seen is drawn: a course may have thousands of patches. */
export function PartList(props: { course: Course; thing: PartThing | null; onChoose: (thing: PartThing) => void }) {
  const { course, thing, onChoose } = props;
  const targets = useTargets();
  const rows = courseKindOf(course).parts.flatMap((part) =>
    thingsOf(course, part).map((of) => ({ id: `${part} ${of.thing.id}`, of })),
  );
  return (
    <Virtualizer layout={ListLayout} layoutOptions={{ rowSize: ROW }}>
      <List
        aria-label="Parts of the course"
        items={rows}
        selectionMode="single"
        selectedKeys={thing === null ? [] : [`${thing.part} ${thing.thing.id}`]}
        onSelectionChange={(keys) => {
          const row = rows.find(({ id }) => keys !== "all" && keys.has(id));
          if (row !== undefined) onChoose(row.of);
        }}
        style={{ height: ROW * Math.min(MOST_ROWS, rows.length) }}
      >
        {(row) => (
          <ListBoxItem textValue={thingWords(course, row.of, targets)}>
            {thingWords(course, row.of, targets)}
          </ListBoxItem>
        )}
      </List>
    </Virtualizer>
  );
}
