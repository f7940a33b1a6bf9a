import { defineConfig } from "vite";

export default defineConfig({
  build: {
    ssr: true,
    outDir: "dist",
    target: "node20",
    emptyOutDir: true,
    rollupOptions: {
      input: {
        main: "src/main.ts",
        "work.worker": "src/work/work.worker.ts",
        "look.worker": "src/links/look.worker.ts",
      },
      output: { entryFileNames: "[name].js" },
    },
  },
  ssr: { noExternal: [/^@perceptum\//, /^comlink/] },
});
