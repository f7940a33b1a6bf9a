import { hexToRgb } from "@perceptum/core/colour";
import type { TargetId } from "@perceptum/core/names";
import { type Course, coloursOf, type PictureColour, type Pixels, patchesFromPicture } from "@perceptum/core/world";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { useEdit, useProject } from "../../hooks/project";
import { Button } from "../../ui/Button";
import { Wrong } from "../../ui/EntryField";
import { Dim, Num } from "../../ui/layout";
import { NumberField } from "../../ui/NumberField";
import { Select } from "../../ui/Select";
import { Sheet, SheetButtons } from "../../ui/Sheet";

const Picture = styled.img`
  max-width: 100%;
  max-height: 190px;
  border: 1px solid ${({ theme }) => theme.rule};
  align-self: center;
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  & > i { width: 34px; height: 18px; border: 1px solid ${({ theme }) => theme.rule}; }
`;

/** Larger pictures are made smaller to this many pixels along. */
const MOST_PIXELS = 1200;
const BARE = "bare";

/** A course from a picture: its width on the floor, and for each of its colours what it is. */
export function PictureSheet(props: { isOpen: boolean; file: File; course: Course; onClose: () => void }) {
  const { isOpen, file, course, onClose } = props;
  const { targets } = useProject();
  const edit = useEdit();
  const [url] = useState(() => URL.createObjectURL(file));
  const [pixels, setPixels] = useState<Pixels>();
  const [colours, setColours] = useState<readonly PictureColour[]>([]);
  const [assigned, setAssigned] = useState<readonly (TargetId | null)[]>([]);
  const [width, setWidth] = useState(course.size[0]);
  const [cell, setCell] = useState(10);
  const [wrong, setWrong] = useState<string>();

  // Not at once: the picture on the sheet may still be loading when it is closed.
  useEffect(() => () => void setTimeout(() => URL.revokeObjectURL(url), 10_000), [url]);
  useEffect(() => {
    let current = true;
    pixelsOf(file).then(
      (read) => {
        if (!current) return;
        const found = coloursOf(read);
        setPixels(read);
        setColours(found);
        setAssigned(
          found.map(({ rgb }, i) => {
            if (i === 0) return null;
            const apart = (paint: string) => hexToRgb(paint).reduce((sum, x, c) => sum + (x * 255 - rgb[c]) ** 2, 0);
            return [...targets].sort((a, b) => apart(a.paint) - apart(b.paint))[0]?.id ?? null;
          }),
        );
      },
      () => current && setWrong(`${file.name} is no picture that can be read. The course stays as it is.`),
    );
    return () => {
      current = false;
    };
  }, [file, targets]);
  const apply = () => {
    if (pixels === undefined) return;
    try {
      const { patches, size } = patchesFromPicture(pixels, width, colours, assigned, cell);
      const refused = edit("paintCourse", { course: course.id, size, patches });
      setWrong(refused);
      if (refused === undefined) onClose();
    } catch (error) {
      setWrong(`${(error as Error).message}. The course stays as it is.`);
    }
  };
  return (
    <Sheet title="Course from a picture" isOpen={isOpen} onClose={onClose}>
      <Picture src={url} alt={file.name} />
      <Row>
        <Dim>The picture is</Dim>
        <NumberField
          label="Width on the floor in cm"
          value={width / 10}
          low={1}
          high={10_000}
          onChange={(v) => setWidth(v * 10)}
        />
        <Dim>cm wide on the floor, read in cells of</Dim>
        <NumberField label="Cell in mm" value={cell} low={2} high={500} onChange={setCell} />
        <Dim>mm.</Dim>
      </Row>
      <section aria-label="Colours of the picture" style={{ display: "grid", gap: 5 }}>
        {colours.map(({ rgb, share }, i) => (
          <Row key={rgb.join()}>
            <i style={{ background: `rgb(${rgb.join(" ")})` }} />
            <Num>{(share * 100).toFixed(1)} %</Num>
            <Select
              label={`Colour ${i + 1}`}
              hideLabel
              value={(assigned[i] ?? BARE) as string}
              options={[
                { id: BARE, text: "bare ground" },
                ...targets.map((t) => ({ id: t.id as string, text: t.name })),
              ]}
              onChange={(id) =>
                setAssigned((all) => all.map((t, k) => (k === i ? (id === BARE ? null : (id as TargetId)) : t)))
              }
            />
          </Row>
        ))}
      </section>
      <Dim style={{ fontSize: 12 }}>
        Its patches take the place of those of the course; lines, signs and the rest stay.
      </Dim>
      {wrong !== undefined && <Wrong role="alert">{wrong}</Wrong>}
      <SheetButtons>
        <Button onPress={onClose}>Cancel</Button>
        <Button $main why={pixels === undefined && "The picture is being read."} onPress={apply}>
          Paint the course
        </Button>
      </SheetButtons>
    </Sheet>
  );
}

async function pixelsOf(file: File): Promise<Pixels> {
  const image = await createImageBitmap(file);
  const shrink = Math.min(1, MOST_PIXELS / Math.max(image.width, image.height));
  const [width, height] = [
    Math.max(1, Math.round(image.width * shrink)),
    Math.max(1, Math.round(image.height * shrink)),
  ];
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext("2d");
  if (context === null) throw new Error("this browser draws no pictures");
  context.imageSmoothingEnabled = shrink < 1;
  context.drawImage(image, 0, 0, width, height);
  return { data: context.getImageData(0, 0, width, height).data, width, height };
}
