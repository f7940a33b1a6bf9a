import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { BrowserRouter, Route, Routes } from "react-router";
import { ThemeProvider } from "styled-components";
import { NotFound } from "./app/NotFound";
import { ProjectPage } from "./app/ProjectPage";
import { ProjectsPage } from "./app/ProjectsPage";
import { GlobalStyle, theme } from "./app/theme";
import { applyTheme } from "./app/themeChoice";
import { startAutosave } from "./state/autosave";
import { startJudging } from "./state/judged";
import { makeStore } from "./state/store";

const store = makeStore();
startAutosave(store);
startJudging(store);
applyTheme();

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <ThemeProvider theme={theme}>
        <GlobalStyle />
        <BrowserRouter>
          <Routes>
            <Route path="/" element={<ProjectsPage />} />
            <Route path="/p/:id" element={<ProjectPage />} />
            <Route path="/p/:id/:stage" element={<ProjectPage />} />
            <Route path="*" element={<NotFound />} />
          </Routes>
        </BrowserRouter>
      </ThemeProvider>
    </Provider>
  </StrictMode>,
);
