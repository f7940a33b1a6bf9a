/** What can be chosen where readings come in: tables, and pictures or videos for a camera. */
export const READING_FILES = ".csv,.tsv,.txt,.jsonl,.ndjson,.json,text/*,image/png,image/jpeg,image/webp,video/*";

/** Whether a file is for a camera and not a table of readings. */
export const isPictureFile = ({ type, name }: Pick<File, "type" | "name">): boolean =>
  /^(image|video)\//.test(type) || /\.(png|jpe?g|webp|mp4|webm|mov)$/i.test(name);
