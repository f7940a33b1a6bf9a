/** A name as it may stand in a file's name: letters and digits with hyphens between; “project” where it has none. */
export const fileName = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "")
    .toLowerCase() || "project";
