/** The server's addresses. They stand apart from the schemas: the page needs them before those have come. */
export const PATHS = {
  health: "/api/health",
  openApi: "/api/openapi.json",
  projects: "/api/projects",
  project: "/api/projects/{id}",
  opened: "/api/projects/{id}/opened",
  file: "/api/projects/{id}/file",
  readings: "/api/projects/{id}/tapes/{tape}/readings",
  readingsCsv: "/api/projects/{id}/tapes/{tape}/readings.csv",
  frame: "/api/projects/{id}/frames/{name}",
  runs: "/api/projects/{id}/runs",
  opening: "/api/links/{link}/opening",
  listens: "/api/links/{link}/listens",
  events: "/api/links/{link}/events",
  commands: "/api/links/{link}/commands",
  wire: "/api/links/{link}/wire",
  act: "/api/links/{link}/acts/{act}",
  watched: "/api/links/{link}/acts/{act}/watch",
  picture: "/api/links/{link}/pictures/{n}",
  sent: "/api/links/{link}/readings",
} as const;

/** The names that stand in braces in a path. */
type Named<P extends string> = P extends `${string}{${infer N}}${infer Rest}` ? N | Named<Rest> : never;

/** A path with its names filled in, each as it must stand in an address. */
export const at = <K extends keyof typeof PATHS>(
  path: K,
  ...[names]: Named<(typeof PATHS)[K]> extends never ? [] : [Record<Named<(typeof PATHS)[K]>, string | number>]
): string =>
  PATHS[path].replace(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent((names as Record<string, string | number>)[name]),
  );
