import type { PictureEvent } from "@perceptum/core/live";
import type { CameraSensor } from "@perceptum/core/readings";
import { useMemo, useState } from "react";
import { useSession } from "../hooks/context";
import { usePublished } from "../hooks/usePublished";
import { CameraWork } from "../model/camera/CameraWork";
import { LastFew } from "../model/live/LastFew";
import { OpenLink, type RobotLink } from "../model/live/RobotLink";
import { type FrameSource, LiveFrames } from "./LiveFrames";
import type { Size } from "./pictures";

/** Pictures that a robot sends by POST: live, frozen, recorded to a tape. The link is opened beside them. */
export function LinkedCamera({ sensor }: { sensor: CameraSensor }) {
  const session = useSession();
  const link = usePublished(session.service(OpenLink));
  const [trouble, setTrouble] = useState<string | null>(null);
  const [size, setSize] = useState<Size | null>(null);
  const [lost, setLost] = useState(0);
  const source = useLink(link, { setSize, setLost });
  return (
    <LiveFrames
      sensor={sensor}
      source={source}
      size={size}
      title="Pictures over the link"
      lost={lost}
      trouble={trouble}
      onTrouble={setTrouble}
      words={
        source === null
          ? "The link is closed. Open it on the right, and a program on this computer sends its pictures to this page: PNG, JPEG or WebP, each by a POST of its own."
          : "The link is open and waits for the first picture. A camera that finds blobs by itself says those alone: they are answered, and nothing is shown of them."
      }
    />
  );
}

/** The server keeps the last eight: one of them is on its way here while the next comes. */
const MOST_WAITING = 6;

interface LinkedPictures {
  setSize: (size: Size) => void;
  setLost: (change: (lost: number) => number) => void;
}

/** The pictures that come over a link. */
function useLink(link: RobotLink | null, { setSize, setLost }: LinkedPictures): FrameSource | null {
  const work = useSession().service(CameraWork);
  return useMemo((): FrameSource | null => {
    if (link === null) return null;
    return {
      each(take) {
        const look = async ({ t }: PictureEvent, url: string) => {
          const response = await fetch(url);
          if (!response.ok) throw new Error("it gave way to newer ones");
          const picture = await response.blob();
          await take(async (setup, label, keep) => {
            const seen = await work.lookAtPicture(picture, setup, label, keep);
            setSize(seen.size);
            return seen;
          }, t);
        };
        const pictures = new LastFew<[PictureEvent, string]>(
          MOST_WAITING,
          ([event, url]) => look(event, url),
          () => setLost((lost) => lost + 1),
        );
        return link.onPictures((event, url) => pictures.push([event, url]));
      },
    };
  }, [link, work, setSize, setLost]);
}
