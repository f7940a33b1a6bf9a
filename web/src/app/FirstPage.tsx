import { useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { fetchUntouched } from "../server/api";
import { lazily } from "../ui/lazily";
import { Message } from "./Message";

const ProjectsPage = lazily(() => import("./ProjectsPage").then((m) => m.ProjectsPage));

/** Where one begins: a new database opens its first demo at once, any other shows the list. */
export function FirstPage() {
  const [search] = useSearchParams();
  const [decided, setDecided] = useState(false);
  const navigate = useNavigate();
  const wantsList = search.has("list");
  useEffect(() => {
    if (wantsList) return;
    let here = true;
    fetchUntouched().then(
      (untouched) => {
        if (!here) return;
        if (untouched === undefined) setDecided(true);
        else void navigate(`/p/${untouched}/sense`, { replace: true });
      },
      // The list says what is wrong.
      () => here && setDecided(true),
    );
    return () => {
      here = false;
    };
  }, [wantsList, navigate]);
  return wantsList || decided ? <ProjectsPage /> : <Message title="Opening …" />;
}
