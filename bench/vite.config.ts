import { defineConfig } from "vite";

/** What is measured is the built code, as it is shipped. */
export default defineConfig({
  build: { ssr: "main.ts", outDir: "dist", target: "node20", emptyOutDir: true },
  ssr: { noExternal: [/^@perceptum\//] },
});
