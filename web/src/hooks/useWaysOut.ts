import { cutName, fileName } from "@perceptum/core/names";
import { type ProjectDocument, writeProject } from "@perceptum/core/project";
import { useState } from "react";
import { useNavigate } from "react-router";
import { saveFile } from "../browser/saveFile";
import { wholeProject } from "../model/session/wholeProject";
import { failureText } from "../server/api";
import { addProject } from "../server/list";
import { useSession } from "./context";

/** What a person can do with changes that cannot be saved where they belong; what goes wrong is a sentence. */
export function useWaysOut() {
  const session = useSession();
  const navigate = useNavigate();
  const [wrong, setWrong] = useState<string>();
  const present = () => session.store.getState().document.present as ProjectDocument;

  return {
    wrong,
    /** Does work when a button is pressed. */
    trying: (work: () => Promise<void>) => () => {
      setWrong(undefined);
      work().catch((error: unknown) => setWrong(failureText(error)));
    },
    /** The project with its readings as a new one, which is opened. */
    keepAsCopy: async (word: string) => {
      const document = present();
      const name = cutName(document.name, ` (${word})`);
      const added = await addProject(await wholeProject({ ...document, name }, session));
      session.dropChanges();
      await navigate(`/p/${added.id}/sense`);
    },
    saveAsFile: async () => {
      const document = present();
      const text = writeProject(await wholeProject(document, session));
      saveFile(`${fileName(document.name)}.perceptum.json`, text, "application/json");
    },
  };
}
