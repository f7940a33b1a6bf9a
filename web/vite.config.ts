import optimizeLocales from "@react-aria/optimize-locales-plugin";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  // The page speaks English, so what its controls say by themselves is not needed in other languages.
  plugins: [optimizeLocales.vite({ locales: ["en-US"] }), react()],
  server: {
    port: 5173,
    proxy: {
      "/api": { target: "http://127.0.0.1:4180", changeOrigin: true, headers: { origin: "http://127.0.0.1:4180" } },
    },
  },
  worker: { format: "es" },
  build: {
    target: "es2022",
    outDir: "dist",
    emptyOutDir: true,
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        // What every screen needs comes in few pieces: each has headers of its own. Schemas stay apart, with Zod.
        codeSplitting: {
          groups: [
            {
              name: "core",
              test: /core\/(names|arithmetic|colour|readings|rules)\/(?!\w*(Schemas?|Table|zodProblem)\.|(why|importPlan|setBound|change)\.)/,
            },
            {
              name: "base",
              test: /contract\/paths|findings\/(FindingList|pressing)|web\/src\/(model|hooks|browser|ui|lights)\/(?!camera|live\/(\w*Link|\w*Stream|LastFew)|runs\/(Sweeps|runTapes)|session\/(readProjectFile|projectReader|newProject|demoProject|wholeProject|remade)|(projectList|Chart|Check|NumberField|fields|unbroken|Sheet|PhraseField|RangeField|ProgressBar|phraseWords|useWaysOut|LightsSheet|dragging|useFocusNext|serial|Info|glossary|amount)\.)/,
            },
          ],
        },
      },
    },
  },
});
