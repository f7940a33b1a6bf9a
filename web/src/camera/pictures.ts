import { sizeOfPng } from "@perceptum/core/png";

export interface Size {
  width: number;
  height: number;
}

/** A picture that can be taken in: a file, or a moment of a video. */
export interface Picture {
  name: string;
  file: File;
  size: Size;
  /** The picture of a video at its moment, as large as is wanted; missing for a file that is a picture. */
  video?: (size: Size) => Promise<ImageData>;
}

export const textOfSize = ({ width, height }: Size) => `${width} × ${height} px`;

/** A file that is larger than this is not read. */
const MOST_BYTES = 50 * 1024 * 1024;
const MOST_VIDEO_BYTES = 500 * 1024 * 1024;
/** Of a video a frame is taken every so many ms. */
const VIDEO_EVERY_MS = 100;
/** So many frames of a video are taken at most. */
const MOST_VIDEO_FRAMES = 600;

/** Pictures in the order of their names. */
export const byName = (a: Pick<Picture, "name">, b: Pick<Picture, "name">): number =>
  a.name < b.name ? -1 : a.name > b.name ? 1 : 0;

/** Pictures in the order of the last number in their names, and of the names where that is the same. */
export function byNumber(a: Pick<Picture, "name">, b: Pick<Picture, "name">): number {
  const number = (name: string) => Number(/(\d+)(?=\D*$)/.exec(name.replace(/\.[^.]*$/, ""))?.[1] ?? Number.NaN);
  const [m, n] = [number(a.name), number(b.name)];
  return m !== n && !Number.isNaN(m) && !Number.isNaN(n) ? m - n : byName(a, b);
}

/** The size that most pictures have; undefined without any. */
export function commonSize(pictures: readonly Pick<Picture, "size">[]): Size | undefined {
  const counts = new Map<string, { size: Size; count: number }>();
  for (const { size } of pictures) {
    const known = counts.get(textOfSize(size)) ?? { size, count: 0 };
    known.count++;
    counts.set(textOfSize(size), known);
  }
  return [...counts.values()].sort((a, b) => b.count - a.count)[0]?.size;
}

/** The pictures among files, with what is wrong with the others; `release` lets go of videos once they are done with. */
export async function picturesOf(
  files: readonly File[],
): Promise<{ pictures: Picture[]; wrong: string[]; release: () => void }> {
  const videos: HTMLVideoElement[] = [];
  const pictures: Picture[] = [];
  const wrong: string[] = [];
  for (const file of files) {
    const video = file.type.startsWith("video/") || /\.(mp4|webm|mov)$/i.test(file.name);
    const most = video ? MOST_VIDEO_BYTES : MOST_BYTES;
    if (file.size > most) {
      wrong.push(`${file.name} has ${mb(file.size)} MB; at most ${mb(most)} MB are read. It is left out.`);
      continue;
    }
    const found = video ? await momentsOf(file, videos) : await pictureOf(file);
    if (typeof found === "string") wrong.push(`${file.name} ${found}; it is left out.`);
    else pictures.push(...found);
  }
  const release = () => {
    for (const video of videos) URL.revokeObjectURL(video.src);
  };
  return { pictures, wrong, release };
}

const mb = (bytes: number) => Math.round(bytes / 1_048_576);

async function pictureOf(file: File): Promise<Picture[] | string> {
  const head = new Uint8Array(await file.slice(0, 24).arrayBuffer());
  const png = sizeOfPng(head);
  if (png !== undefined) return [{ name: file.name, file, size: png }];
  try {
    const bitmap = await createImageBitmap(file);
    const size = { width: bitmap.width, height: bitmap.height };
    bitmap.close();
    return [{ name: file.name, file, size }];
  } catch {
    return "is no picture that the browser can read";
  }
}

/** Moments of a video, evenly apart; the video is put among those that are open. */
async function momentsOf(file: File, open: HTMLVideoElement[]): Promise<Picture[] | string> {
  const video = document.createElement("video");
  video.muted = true;
  video.preload = "auto";
  video.src = URL.createObjectURL(file);
  const opened = await new Promise<boolean>((done) => {
    video.onloadeddata = () => done(true);
    video.onerror = () => done(false);
  });
  if (!opened || video.videoWidth === 0) {
    URL.revokeObjectURL(video.src);
    return "is a video that this browser cannot play";
  }
  open.push(video);
  const size = { width: video.videoWidth, height: video.videoHeight };
  const length = await lengthOf(video);
  const count = Math.max(1, Math.min(MOST_VIDEO_FRAMES, Math.floor((length * 1000) / VIDEO_EVERY_MS)));
  return Array.from({ length: count }, (_, k) => ({
    name: file.name,
    file,
    size,
    video: (wanted: Size) => momentOf(video, (k * VIDEO_EVERY_MS) / 1000, wanted),
  }));
}

/** How long a video is, in seconds; one that was recorded in a browser knows it only once it was gone through. */
async function lengthOf(video: HTMLVideoElement): Promise<number> {
  if (Number.isFinite(video.duration)) return video.duration;
  await seek(video, 1e9);
  const length = video.currentTime;
  await seek(video, 0);
  return length;
}

function seek(video: HTMLVideoElement, seconds: number): Promise<void> {
  return new Promise((done) => {
    video.onseeked = () => done();
    video.currentTime = seconds;
  });
}

async function momentOf(video: HTMLVideoElement, seconds: number, { width, height }: Size): Promise<ImageData> {
  if (seconds !== video.currentTime) await seek(video, seconds);
  return grabbed(video, { width, height });
}

/** What a video shows now, scaled to a size. @throws Error without memory */
export function grabbed(video: HTMLVideoElement, { width, height }: Size): ImageData {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (context === null) throw new Error("the browser has no memory left for a frame");
  context.drawImage(video, 0, 0, width, height);
  return context.getImageData(0, 0, width, height);
}
