import { StrictMode } from "react";
import { I18nProvider } from "react-aria-components";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { BrowserRouter, Route, Routes } from "react-router";
import { ThemeProvider } from "styled-components";
import { FirstPage } from "./app/FirstPage";
import { NotFound } from "./app/NotFound";
import { ProjectPage } from "./app/ProjectPage";
import { Trouble } from "./app/Trouble";
import { SCREENS } from "./app/Workbench";
import { browserSurroundings } from "./browser/surroundings";
import { SessionsContext } from "./hooks/context";
import { Sessions } from "./model/session/Sessions";
import { isStage } from "./model/stages";
import { makeStore } from "./model/store/store";
import { GlobalStyle, theme } from "./ui/theme";
import { applyTheme } from "./ui/themeChoice";

// The screen that the address names is wanted soon.
const stage = location.pathname.split("/")[3];
if (isStage(stage)) void SCREENS[stage].fetch();

const store = makeStore();
const sessions = new Sessions(store, browserSurroundings());
applyTheme();

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <I18nProvider locale="en-US">
      <Provider store={store}>
        <ThemeProvider theme={theme}>
          <GlobalStyle />
          <Trouble>
            <SessionsContext value={sessions}>
              <BrowserRouter useTransitions={false}>
                <Routes>
                  <Route path="/" element={<FirstPage />} />
                  <Route path="/p/:id" element={<ProjectPage />} />
                  <Route path="/p/:id/:stage" element={<ProjectPage />} />
                  <Route path="*" element={<NotFound />} />
                </Routes>
              </BrowserRouter>
            </SessionsContext>
          </Trouble>
        </ThemeProvider>
      </Provider>
    </I18nProvider>
  </StrictMode>,
);
