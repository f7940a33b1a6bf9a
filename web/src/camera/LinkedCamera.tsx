import type { Link, PictureEvent } from "@perceptum/core/live";
import type { CameraSensor } from "@perceptum/core/readings";
import { useCallback, useMemo, useState } from "react";
import { Address, addressOf, httpLink, withHttpLink } from "../sense/link";
import { useSession } from "../session/context";
import { useEdit, useProject } from "../session/project";
import { Button } from "../ui/Button";
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
    setTrouble("Another page has opened this link. Close it there, then open it here again.");
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
      start={
        <Button $small $main onPress={begin}>
          Open the link
        </Button>
      }
      stop={(finish) => (
        <Button
          $small
          onPress={() => {
            finish();
            setOpen(false);
          }}
        >
          Close the link
        </Button>
      )}
    />
  );
}

interface Hears {
  setSize: (size: Size) => void;
  setLost: (change: (lost: number) => number) => void;
  setTrouble: (trouble: string | null) => void;
  /** Another page has opened it. */
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
        const at = `/api/links/${id}`;
        const events = new EventSource(`${at}/events`);
        events.addEventListener("open", () => setTrouble(null));
        events.addEventListener("error", () =>
          setTrouble("The server does not answer; the link opens again with it. What was recorded so far is kept."),
        );
        events.addEventListener("taken", () => {
          events.close();
          taken();
        });
        // One after another: where this page is slow, pictures give way to newer ones at the server, and are counted.
        let last = Promise.resolve();
        events.addEventListener("picture", (event) => {
          const { n, t } = JSON.parse((event as MessageEvent<string>).data) as PictureEvent;
          last = last.then(
            async () => {
              const response = await fetch(`${at}/pictures/${n}`);
              if (!response.ok) return setLost((lost) => lost + 1);
              const picture = await response.blob();
              await take(async (setup, label, keep) => {
                const seen = await work.lookAtPicture(picture, setup, label, keep);
                setSize(seen.size);
                return seen;
              }, t);
            },
            () => undefined,
          );
        });
        return () => events.close();
      },
    };
  }, [id, work, setSize, setLost, setTrouble, taken]);
}
