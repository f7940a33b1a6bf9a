import type { Edit } from "@perceptum/core/edits";
import { cutName, freeId, type RuleSetId, type SensorId } from "@perceptum/core/names";
import { newCamera, type ProjectDocument, takenIds } from "@perceptum/core/project";
import { type CameraSensor, isCamera, MAX_FRAMES, MOST_FRAME, resized } from "@perceptum/core/readings";
import { useEffect, useRef, useState } from "react";
import { useSession } from "../hooks/context";
import { useProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { CameraWork } from "../model/camera/CameraWork";
import { watchingChosen } from "../model/store/sense";
import { sensorChosen } from "../model/store/view";
import { Button, Choice } from "../ui/Button";
import { Box, Wrong } from "../ui/EntryField";
import { LabelledRow } from "../ui/fields";
import { Dim } from "../ui/layout";
import { ProgressBar } from "../ui/ProgressBar";
import { Select } from "../ui/Select";
import { Sheet, SheetButtons } from "../ui/Sheet";
import { nameProblem, typedNumber } from "../ui/typed";
import type { Packed } from "../workers/Vision";
import { byName, byNumber, commonSize, type Picture, picturesOf, type Size, textOfSize } from "./pictures";

/** Pictures, or the frames of a video, that become a camera's tape. */
export function PictureSheet({ files, onClose }: { files: readonly File[]; onClose: () => void }) {
  const project = useProject();
  const session = useSession();
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => state.view.sensor);
  const work = session.service(CameraWork);
  const cameras = project.sensors.filter(isCamera);
  const [pictures, setPictures] = useState<readonly Picture[] | null>(null);
  const [wrong, setWrong] = useState<readonly string[]>([]);
  const [camera, setCamera] = useState<string>((cameras.find((c) => c.id === chosen) ?? cameras[0])?.id ?? "new");
  const [name, setName] = useState("Front camera");
  const [rules, setRules] = useState<string>("own");
  const [order, setOrder] = useState<"number" | "name">("number");
  const [fit, setFit] = useState<"scale" | "change">("scale");
  const [period, setPeriod] = useState<string | null>(null);
  const [progress, setProgress] = useState<{ share: number; began: number } | null>(null);
  const cancelled = useRef(false);
  useEffect(() => {
    let here = true;
    let release: (() => void) | undefined;
    void picturesOf(files).then((found) => {
      if (!here) return found.release();
      release = found.release;
      setPictures(found.pictures);
      setWrong(found.wrong);
    });
    return () => {
      here = false;
      cancelled.current = true;
      release?.();
    };
  }, [files]);

  const own = cameras.find((c) => c.id === camera);
  const size = pictures === null ? undefined : commonSize(pictures);
  const taped = own !== undefined && project.tapes.some((tape) => tape.sensor === own.id);
  const differs =
    own !== undefined && size !== undefined && (size.width !== own.frame.width || size.height !== own.frame.height);
  const wanted: Size | undefined = own === undefined || (differs && fit === "change") ? size : own.frame;
  const ms = typedNumber(period ?? String(own?.periodMs ?? 100));
  const problem = problemIn({ pictures, size, wanted, ms, own, name: name.trim(), project });

  const take = async () => {
    if (pictures === null || wanted === undefined) return;
    const began = performance.now();
    setProgress({ share: 0, began });
    const taken = await packAll(
      work,
      ordered(pictures, order),
      wanted,
      (share) => setProgress({ share, began }),
      cancelled,
    );
    setProgress(null);
    if (taken === null || !session.isOpen) return;
    if (taken.frames.length === 0) return setWrong(taken.wrong);
    if (taken.wrong.length > 0) session.notice.set(taken.wrong.join(" "));
    for (const { name: frame, bytes } of taken.frames) session.frames.add(frame, bytes);
    const { sensor, ruleSet, alongside } = withCamera(project, own, name.trim(), wanted, rules);
    session.changeTapes({
      did: `${taken.frames.length} pictures taken`,
      made: [
        {
          name: cutName(files.length === 1 ? files[0].name.replace(/\.[^.]*$/, "") || "Pictures" : "Pictures"),
          sensor,
          origin: "import",
          marks: [],
          readings: { t: Float64Array.from(taken.frames, (_, k) => k * ms), channels: {} },
          frames: taken.frames.map((frame) => frame.name),
          boxes: [],
        },
      ],
      alongside,
    });
    dispatch(sensorChosen({ sensor, ruleSet }));
    dispatch(watchingChosen("tape"));
    onClose();
  };
  return (
    <Sheet title="Pictures of a camera" isOpen onClose={onClose}>
      <p role="status">
        {pictures === null
          ? "The pictures are looked at."
          : pictures.length === 0
            ? "None of these files is a picture or video that the browser can read; nothing was changed."
            : `${pictures.length === 1 ? "One picture" : `${pictures.length} pictures`} of ${size === undefined ? "" : textOfSize(size)}.`}
      </p>
      {wrong.map((line) => (
        <Wrong key={line} role="alert">
          {line}
        </Wrong>
      ))}
      {pictures !== null && pictures.length > 0 && (
        <>
          <Select
            label="Taken with"
            value={camera}
            options={[
              ...cameras.map((c) => ({ id: c.id as string, text: `${c.name}, ${textOfSize(c.frame)}` })),
              { id: "new", text: "a new camera" },
            ]}
            onChange={setCamera}
          />
          {own === undefined && (
            <LabelledRow>
              Its name
              <Box type="text" $wide value={name} onChange={(event) => setName(event.target.value)} />
            </LabelledRow>
          )}
          {own === undefined && cameras.length > 0 && (
            <Select
              label="Its rules"
              value={rules}
              options={[
                { id: "own", text: "its own" },
                ...[...new Set(cameras.map((c) => c.ruleSet))].map((id) => ({
                  id: id as string,
                  text: `those of “${project.ruleSets.find((s) => s.id === id)?.name ?? id}”`,
                })),
              ]}
              onChange={setRules}
            />
          )}
          {differs && (
            <>
              <p>
                The pictures have {textOfSize(size)}, the frames of {own.name} {textOfSize(own.frame)}.
              </p>
              <Choice
                label="What fits what"
                value={taped ? "scale" : fit}
                options={[
                  { id: "scale" as const, text: "Scale the pictures" },
                  ...(taped ? [] : [{ id: "change" as const, text: `Make the camera ${textOfSize(size)}` }]),
                ]}
                onChange={setFit}
              />
              {taped && <Dim>The camera has tapes of its own size, so it keeps it.</Dim>}
            </>
          )}
          {pictures.length > 1 && pictures[0].video === undefined && (
            <Choice
              label="Order of the pictures"
              value={order}
              options={[
                { id: "number" as const, text: "By the number in the name" },
                { id: "name" as const, text: "By name" },
              ]}
              onChange={setOrder}
            />
          )}
          <LabelledRow>
            One every
            <span>
              <Box
                aria-label="Time between two pictures in ms"
                value={period ?? String(own?.periodMs ?? 100)}
                onChange={(event) => setPeriod(event.target.value)}
                style={{ width: 70 }}
              />{" "}
              ms
            </span>
          </LabelledRow>
        </>
      )}
      {problem !== undefined && pictures !== null && pictures.length > 0 && <Wrong role="alert">{problem}</Wrong>}
      {progress !== null && (
        <ProgressBar
          label="Pictures taken in"
          share={progress.share}
          began={progress.began}
          onCancel={() => {
            cancelled.current = true;
          }}
        />
      )}
      <SheetButtons>
        <Button onPress={onClose}>Cancel</Button>
        <Button $main why={problem ?? (progress !== null && "They are being taken in.")} onPress={() => void take()}>
          Take them in
        </Button>
      </SheetButtons>
    </Sheet>
  );
}

/** What stands against taking pictures in, as a sentence. */
function problemIn(of: {
  pictures: readonly Picture[] | null;
  size: Size | undefined;
  wanted: Size | undefined;
  ms: number;
  own: CameraSensor | undefined;
  name: string;
  project: ProjectDocument;
}): string | undefined {
  const { pictures, size, wanted, ms, own, name, project } = of;
  if (pictures === null || size === undefined || wanted === undefined) return "There is no picture to take.";
  if (size.width > MOST_FRAME.width || size.height > MOST_FRAME.height)
    return `The pictures have ${textOfSize(size)}; a camera's frames have at most ${textOfSize(MOST_FRAME)}.`;
  if (size.width < 8 || size.height < 8) return "The pictures are smaller than 8 px on a side.";
  if (pictures.length > MAX_FRAMES)
    return `There are ${pictures.length} pictures; a tape holds at most ${MAX_FRAMES} frames.`;
  if (!(ms >= 1 && ms <= 600_000)) return "The time between two pictures lies from 1 to 600000 ms.";
  return own === undefined
    ? nameProblem(
        name,
        project.sensors.map((s) => s.name),
      )
    : undefined;
}

const ordered = (pictures: readonly Picture[], order: "number" | "name"): readonly Picture[] =>
  pictures.some((picture) => picture.video !== undefined)
    ? pictures
    : [...pictures].sort(order === "number" ? byNumber : byName);

/** Packs pictures one by one; null where it was cancelled. What cannot be read is left out, and said. */
async function packAll(
  work: CameraWork,
  pictures: readonly Picture[],
  size: Size,
  told: (share: number) => void,
  cancelled: { current: boolean },
): Promise<{ frames: Packed[]; wrong: string[] } | null> {
  const frames: Packed[] = [];
  const wrong: string[] = [];
  cancelled.current = false;
  for (const [k, picture] of pictures.entries()) {
    const own = { width: size.width, height: size.height };
    const same = picture.size.width === size.width && picture.size.height === size.height;
    const taken =
      picture.video === undefined
        ? await work.take(picture.file, same ? null : own)
        : { packed: await work.takeImage(await picture.video(own), null), wrong: "" };
    if (cancelled.current) {
      cancelled.current = false;
      return null;
    }
    if (taken.packed === null) wrong.push(`${picture.name}: ${taken.wrong}; it is left out.`);
    else frames.push(taken.packed);
    told((k + 1) / pictures.length);
  }
  return { frames, wrong };
}

/** The camera that took the pictures: one that is there, perhaps of another size from now on, or a new one. */
function withCamera(
  project: ProjectDocument,
  own: CameraSensor | undefined,
  name: string,
  size: Size,
  rules: string,
): { sensor: SensorId; ruleSet: RuleSetId; alongside: readonly Edit[] } {
  if (own === undefined) {
    const sensor = freeId<SensorId>(name, takenIds(project));
    const shared = project.ruleSets.find((s) => s.id === rules);
    const ruleSet =
      shared?.id ??
      freeId<RuleSetId>(
        name,
        project.ruleSets.map((s) => s.id),
      );
    return {
      sensor,
      ruleSet,
      alongside: [
        {
          edit: "addSensor",
          args: { sensor: newCamera(sensor, name, ruleSet, size), ...(shared === undefined && { ownRules: name }) },
        },
      ],
    };
  }
  const { id, ruleSet, frame } = own;
  if (frame.width === size.width && frame.height === size.height) return { sensor: id, ruleSet, alongside: [] };
  return {
    sensor: id,
    ruleSet,
    alongside: [{ edit: "replaceSensor", args: { sensor: resized(own, size) } }],
  };
}
