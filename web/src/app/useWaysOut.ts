import { joinProject, type ProjectDocument, writeProject } from "@perceptum/core/project";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useSession } from "../session/context";
import { addProject, failureText } from "../state/api";
import { saveFile } from "../ui/saveFile";

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
      work().catch((error: unknown) => setWrong(failureText(error)));
    },
    /** The project with its readings as a new one, which is opened. */
    keepAsCopy: async (word: string) => {
      const document = present();
      const name = `${document.name.slice(0, 78 - word.length - 3)} (${word})`;
      const added = await addProject(joinProject({ ...document, name }, session.readings.all));
      session.dropChanges();
      await navigate(`/p/${added.id}/sense`);
    },
    saveAsFile: () => {
      const document = present();
      saveFile(
        `${document.name}.perceptum.json`,
        writeProject(joinProject(document, session.readings.all)),
        "application/json",
      );
    },
  };
}
