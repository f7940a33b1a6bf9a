import { useEffect } from "react";
import { useReadingsVersion, useSession } from "../hooks/context";
import { useAppSelector } from "../hooks/store";
import { CameraWork } from "../model/camera/CameraWork";

/** Has the pixels of boxes taken whenever boxes, tapes or sensors change, for as long as a project with frames is open. */
export function CameraWatch() {
  const session = useSession();
  const tapes = useAppSelector((state) => state.document.present?.tapes);
  const sensors = useAppSelector((state) => state.document.present?.sensors);
  const version = useReadingsVersion();
  useEffect(() => {
    void [tapes, sensors, version];
    session.service(CameraWork).takePixels();
  }, [session, tapes, sensors, version]);
  return null;
}
