import type { Course } from "@perceptum/core/world";
import { courseKindOf } from "@perceptum/core/world";
import { ListBox, ListBoxItem, ListLayout, Virtualizer } from "react-aria-components";
import styled from "styled-components";
import { useTargets } from "../../session/project";
import type { CourseThing } from "../../state/prove";
import { thingWords } from "./thingWords";

const ROW = 26;

const List = styled(ListBox<{ id: string; thing: CourseThing }>)`
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
export function PartList(props: { course: Course; thing: CourseThing | null; onChoose: (thing: CourseThing) => void }) {
  const { course, thing, onChoose } = props;
  const targets = useTargets();
  const rows = courseKindOf(course).parts.flatMap((part) =>
    course[part].map((_, index) => ({ id: `${part} ${index}`, thing: { part, index } })),
  );
  return (
    <Virtualizer layout={ListLayout} layoutOptions={{ rowSize: ROW }}>
      <List
        aria-label="Parts of the course"
        items={rows}
        selectionMode="single"
        selectedKeys={thing === null ? [] : [`${thing.part} ${thing.index}`]}
        onSelectionChange={(keys) => {
          const row = rows.find(({ id }) => keys !== "all" && keys.has(id));
          if (row !== undefined) onChoose(row.thing);
        }}
        style={{ height: ROW * Math.min(MOST_ROWS, rows.length) }}
      >
        {(row) => (
          <ListBoxItem textValue={thingWords(course, row.thing, targets)}>
            {thingWords(course, row.thing, targets)}
          </ListBoxItem>
        )}
      </List>
    </Virtualizer>
  );
}
