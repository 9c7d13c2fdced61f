import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

import { thirdParty } from "./thirdParty.ts";

export default defineConfig({
  plugins: [react(), tailwindcss(), thirdParty()],
  build: {
    outDir: "../src/humble_sum/server/site",
    emptyOutDir: true,
    rollupOptions: {
      // The pages for readers are made by the server; they ask for the fonts by a name that stays.
      input: { index: "index.html", fonts: "src/fonts.css" },
      output: {
        assetFileNames: (asset) =>
          asset.names.includes("fonts.css") ? "assets/fonts.css" : "assets/[name]-[hash][extname]",
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8440" } },
});
