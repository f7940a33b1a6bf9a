import * as z from "zod";
import { PICTURE_NAMES, takePicture } from "../../behaviour";
import { at, ended, sentence, unmet } from "./because";
import type { CheckKind } from "./CheckKind";

const Text = z.string().max(200);

const logIsSchema = z.strictObject({ logIs: z.array(Text).max(200) });

/** The log's lines are these, in this order and no others. */
export const logIs: CheckKind<z.infer<typeof logIsSchema>> = {
  key: "logIs",
  schema: logIsSchema,
  word: "log is …",
  fresh: () => ({ logIs: [] }),
  parse(reader) {
    if (!reader.skip("log")) return undefined;
    reader.take("is");
    if (reader.skip("empty")) return { logIs: [] };
    const logIs = [reader.takeText("a line in quotes, or empty")];
    while (reader.skip(",")) logIs.push(reader.takeText("a line in quotes"));
    return { logIs };
  },
  print: ({ logIs }) => `log is ${logIs.length === 0 ? "empty" : logIs.map((line) => `"${line}"`).join(", ")}`,
  sentence: ({ logIs }) => (logIs.length === 0 ? "The log stays empty" : `The log is ${logIs.map(quoted).join(", ")}`),
  judge({ logIs }, trace) {
    let right = 0;
    for (const note of trace.notes) {
      if (note.kind !== "log") continue;
      if (note.text !== logIs[right]) {
        const wanted = right < logIs.length ? `${quoted(logIs[right])} was to come` : "nothing more was to come";
        const why = sentence(`line ${right + 1} says ${quoted(note.text)} at ${at(note.t)}`, wanted);
        return { outcome: "does not", figure: quoted(note.text), t: note.t, why };
      }
      right++;
    }
    const figure = `${right}/${logIs.length}`;
    if (right === logIs.length) return { outcome: "holds", figure, t: trace.endMs };
    const why = sentence(`${quoted(logIs[right])} was never logged`, ended(trace));
    return unmet(trace, figure, why);
  },
};

const Picture = z.strictObject({ picture: z.enum(PICTURE_NAMES) });
type Shown = string | z.infer<typeof Picture>;
const shownIsSchema = z.strictObject({ shownIs: z.union([Text, Picture]) });

const tellShown = (shown: Shown) => (typeof shown === "string" ? quoted(shown) : `the picture of a ${shown.picture}`);
const nameShown = (shown: Shown) => (typeof shown === "string" ? shown : shown.picture);

/** This text, or this picture, stands on the display when the run ends. */
export const shownIs: CheckKind<z.infer<typeof shownIsSchema>> = {
  key: "shownIs",
  schema: shownIsSchema,
  word: "shown text is …",
  fresh: () => ({ shownIs: "" }),
  parse(reader) {
    if (!reader.skip("shown")) return undefined;
    reader.take("is");
    if (!reader.skip("picture")) return { shownIs: reader.takeText("a text in quotes, or picture and its name,") };
    return { shownIs: { picture: takePicture(reader) } };
  },
  print: ({ shownIs }) => `shown is ${typeof shownIs === "string" ? `"${shownIs}"` : `picture ${shownIs.picture}`}`,
  sentence: ({ shownIs }) => `The display ends with ${tellShown(shownIs)}`,
  judge({ shownIs }, trace) {
    let shown: Shown = "";
    let t: number | undefined;
    for (const output of trace.outputs) {
      const { command } = output;
      if (command.kind !== "show" && command.kind !== "picture") continue;
      shown = command.kind === "show" ? command.text : { picture: command.picture };
      t = output.t;
    }
    const figure = tellShown(shown);
    // A text that is a picture's name means the picture, too.
    const isShown =
      nameShown(shown) === nameShown(shownIs) && (typeof shownIs === "string" || typeof shown !== "string");
    if (isShown) return { outcome: "holds", figure, t: t ?? trace.endMs };
    const why = sentence(
      t === undefined ? "nothing was ever shown" : `${figure} was shown last, at ${at(t)}`,
      ended(trace),
    );
    // The last text stands there: the run is over. More time might have brought one where none was shown.
    return t === undefined ? unmet(trace, figure, why) : { outcome: "does not", figure, t, why };
  },
};

const quoted = (text: string) => `“${text}”`;
