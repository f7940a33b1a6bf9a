import { type BeltCourse, type Course, leastGap } from "@perceptum/core/world";
import { useEdit } from "../../hooks/project";
import { Dim, Head, Title } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { CmField, FieldRow } from "../course/fields";

/** What a belt has beside any course: its size, and how its pieces follow each other. */
export function BeltFields({ course }: { course: Course }) {
  const edit = useEdit();
  if (!("pieces" in course)) return null;
  const { pieces, size } = course;
  const set = (part: Partial<BeltCourse["pieces"]>) =>
    edit("setPieces", { course: course.id, pieces: { ...pieces, ...part } });
  const sized = (next: [number, number]) => edit("changeCourse", { course: course.id, change: { size: next } });
  const shape = pieces.size;
  return (
    <section aria-label="The belt">
      <FieldRow>
        belt
        <CmField label="Length of the belt" mm={size[0]} low={1} onChange={(v) => sized([v, size[1]])} />
        by
        <CmField label="Width of the belt" mm={size[1]} low={1} onChange={(v) => sized([size[0], v])} />
        cm
      </FieldRow>
      <Head style={{ margin: "8px 0 4px" }}>
        <Title>Pieces</Title>
        <Dim style={{ fontSize: 12 }}>gaps of {(leastGap(pieces) / 10).toFixed(1)} cm or more</Dim>
      </Head>
      <FieldRow>
        <Select
          label="shape"
          value={"disc" in shape ? "disc" : "rect"}
          options={[
            { id: "disc", text: "disc" },
            { id: "rect", text: "rectangle" },
          ]}
          onChange={(id) =>
            set({
              size:
                id === "disc"
                  ? { disc: "disc" in shape ? shape.disc : shape.rect[0] }
                  : { rect: "disc" in shape ? [shape.disc, shape.disc] : shape.rect },
            })
          }
        />
        {"disc" in shape ? (
          <CmField
            label="Diameter of a piece"
            width={50}
            mm={shape.disc}
            high={100}
            onChange={(disc) => set({ size: { disc } })}
          />
        ) : (
          <>
            <CmField
              label="Length of a piece"
              width={50}
              mm={shape.rect[0]}
              high={100}
              onChange={(v) => set({ size: { rect: [v, shape.rect[1]] } })}
            />
            by
            <CmField
              label="Width of a piece"
              width={50}
              mm={shape.rect[1]}
              high={100}
              onChange={(v) => set({ size: { rect: [shape.rect[0], v] } })}
            />
          </>
        )}
        cm
      </FieldRow>
      <FieldRow>
        every
        <CmField label="Between the pieces" mm={pieces.every} high={1000} onChange={(every) => set({ every })} />
        cm, ±
        <NumberField
          label="Jitter of the pieces in mm"
          width={44}
          value={pieces.jitterMm}
          low={0}
          high={5000}
          onChange={(jitterMm) => set({ jitterMm })}
        />
        mm; ±
        <NumberField
          label="Off the middle in mm"
          width={44}
          value={pieces.offsetMm}
          low={0}
          high={1000}
          onChange={(offsetMm) => set({ offsetMm })}
        />
        mm off the middle
      </FieldRow>
    </section>
  );
}
