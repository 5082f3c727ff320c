import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { defineConfig } from "vitest/config";

const WORKER = "worker";

/** Tells the service worker which files there are. Their names change with what they hold; the page names them. */
function files(): Plugin {
  return {
    name: "potrel-files",
    apply: "build",
    enforce: "post",
    generateBundle(_, bundle) {
      const worker = bundle[`${WORKER}.js`];
      if (worker?.type !== "chunk") throw new Error("there is no service worker to tell of the files");
      const names = Object.keys(bundle).filter((name) => name !== worker.fileName);
      const named = names.filter((name) => name.startsWith("assets/index")).join(" ");
      const told = names.map((name) => ({
        url: `/${name}`,
        revision: name.startsWith("assets/") ? null : named,
      }));
      worker.code = worker.code.replace("self.__FILES", JSON.stringify(told));
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), files()],
  build: {
    target: "es2023",
    sourcemap: false,
    rolldownOptions: {
      input: { index: "index.html", [WORKER]: "src/worker.ts" },
      output: {
        entryFileNames: ({ name }) => (name === WORKER ? `${WORKER}.js` : "assets/[name]-[hash].js"),
      },
    },
  },
  test: { include: ["tests/*.test.ts"] },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
