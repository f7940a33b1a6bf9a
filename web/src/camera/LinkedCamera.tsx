import type { Link, PictureEvent } from "@perceptum/core/live";
import type { CameraSensor } from "@perceptum/core/readings";
import { useCallback, useMemo, useState } from "react";
import { Address, addressOf, httpLink, openLink, TAKEN, withHttpLink } from "../sense/link";
import { useSession } from "../session/context";
import { useEdit, useProject } from "../session/project";
import { cameraWork } from "./CameraWork";
import { type FrameSource, LiveFrames } from "./LiveFrames";
import type { Size } from "./pictures";

/** Pictures that a robot sends by POST: live, frozen, recorded to a tape. */
export function LinkedCamera({ sensor }: { sensor: CameraSensor }) {
  const project = useProject();
  const edit = useEdit();
  const [open, setOpen] = useState(false);
  const link = httpLink(project);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [size, setSize] = useState<Size | null>(null);
  const [lost, setLost] = useState(0);
  const taken = useCallback(() => {
    setOpen(false);
    setTrouble(TAKEN);
  }, []);
  const source = useLink(open ? link : undefined, { setSize, setLost, setTrouble, taken });
  const begin = () => {
    setTrouble(null);
    setLost(0);
    if (link === undefined) edit("adding a link", withHttpLink);
    setOpen(true);
  };
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
        source === null || link === undefined ? (
          "The link is closed. Open it, and a robot or a script sends its pictures to this page: PNG, JPEG or WebP, each by a POST of its own."
        ) : (
          <>
            The link is open and waits for the first picture. Send each by POST, as PNG, JPEG or WebP, to
            <Address>{addressOf(link)}</Address>
            such as
            <Address>{`curl --data-binary @frame.png -H "Content-Type: image/png" ${addressOf(link)}`}</Address>
          </>
        )
      }
      start={["Open the link", begin]}
      stop={["Close the link", () => setOpen(false)]}
    />
  );
}

interface Hears {
  setSize: (size: Size) => void;
  setLost: (change: (lost: number) => number) => void;
  setTrouble: (trouble: string | null) => void;
  taken: () => void;
}

/** The pictures that come over a link as long as it is named; it is open as long, too. */
function useLink(link: Link | undefined, { setSize, setLost, setTrouble, taken }: Hears): FrameSource | null {
  const work = cameraWork(useSession());
  const id = link?.id;
  return useMemo((): FrameSource | null => {
    if (id === undefined) return null;
    return {
      each(take) {
        const look = async ({ n, t }: PictureEvent) => {
          const response = await fetch(`/api/links/${id}/pictures/${n}`);
          if (!response.ok) throw new Error("it gave way to newer ones");
          const picture = await response.blob();
          await take(async (setup, label, keep) => {
            const seen = await work.lookAtPicture(picture, setup, label, keep);
            setSize(seen.size);
            return seen;
          }, t);
        };
        // One after another: where this page is slow, pictures give way to newer ones at the server, and are counted.
        let last = Promise.resolve();
        const heard = (event: PictureEvent) => {
          last = last.then(() => look(event)).catch(() => setLost((lost) => lost + 1));
        };
        return openLink(id, "picture", heard, { trouble: setTrouble, taken });
      },
    };
  }, [id, work, setSize, setLost, setTrouble, taken]);
}
