import { type Course, courseAs, ROBOTS } from "@perceptum/core/world";
import { amount } from "../ui/amount";
import { Button } from "../ui/Button";
import { Sheet, SheetButtons } from "../ui/Sheet";

const WORDS: Readonly<Record<string, [one: string, many?: string]>> = {
  patches: ["patch", "patches"],
  lines: ["line", "lines"],
  signs: ["sign", "signs"],
  zones: ["zone", "zones"],
  shade: ["shade", "shades"],
  starts: ["start", "starts"],
  cards: ["card", "cards"],
  presses: ["press of a button", "presses of a button"],
  checks: ["check of a zone", "checks of a zone"],
};

/** What each course would lose if the robot were of another kind, in words; courses that lose nothing are left out. */
export function lossesAs(courses: readonly Course[], kind: string): { name: string; words: string }[] {
  return courses.flatMap((course) => {
    const { lost } = courseAs(course, ROBOTS.get(kind).course);
    return lost.length === 0
      ? []
      : [
          {
            name: course.name,
            words: lost.map(({ part, one = part, count }) => amount(count, ...(WORDS[part] ?? [one]))).join(", "),
          },
        ];
  });
}

/** Says what becomes of the courses before the robot is made one of another kind. */
export function OtherKindSheet(props: {
  kind: string;
  courses: readonly Course[];
  onYes: () => void;
  onClose: () => void;
}) {
  const { kind, courses, onYes, onClose } = props;
  const { name } = ROBOTS.get(kind);
  return (
    <Sheet isOpen title={`Change the robot to a ${name}?`} onClose={onClose}>
      <p>Its courses are of another kind, so they lose what cannot be there. Undo brings it back.</p>
      <ul style={{ margin: 0, paddingLeft: 18 }}>
        {lossesAs(courses, kind).map((loss) => (
          <li key={loss.name}>
            {loss.name}: {loss.words}
          </li>
        ))}
      </ul>
      <SheetButtons>
        <Button onPress={onClose}>Keep the robot</Button>
        <Button $main onPress={onYes}>
          Change the robot
        </Button>
      </SheetButtons>
    </Sheet>
  );
}
