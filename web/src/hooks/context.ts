import { createContext, useContext } from "react";
import type { ProjectSession } from "../model/session/ProjectSession";
import type { Sessions } from "../model/session/Sessions";
import { usePublished } from "./usePublished";

export const SessionsContext = createContext<Sessions | null>(null);
export const SessionContext = createContext<ProjectSession | null>(null);

/** What makes and ends sessions. */
export function useSessions(): Sessions {
  const sessions = useContext(SessionsContext);
  if (sessions === null) throw new Error("there are no sessions here");
  return sessions;
}

/** The session of the open project. Only below the project page. */
export function useSession(): ProjectSession {
  const session = useContext(SessionContext);
  if (session === null) throw new Error("no project is open here");
  return session;
}

/** Renders anew when readings come; gives the count of such changes. */
export const useReadingsVersion = (): number => usePublished(useSession().readings.version);
