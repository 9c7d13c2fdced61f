import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";

import type { Plugin } from "vite";

interface Described {
  name?: string;
  version?: string;
  license?: string;
}

function described(folder: string): Described {
  return JSON.parse(readFileSync(join(folder, "package.json"), "utf8")) as Described;
}

/** The folder of the package that a file belongs to; null for a file of ours. */
function packageOf(file: string): string | null {
  for (let folder = dirname(file); folder.includes("node_modules"); folder = dirname(folder)) {
    if (existsSync(join(folder, "package.json")) && described(folder).version) return folder;
  }
  return null;
}

/** Writes third-party.txt: every package and font that goes out with the page, under its licence. */
export function thirdParty(): Plugin {
  const files = new Set<string>();
  return {
    name: "third-party",
    generateBundle(_, bundle) {
      for (const made of Object.values(bundle)) {
        const from = made.type === "chunk" ? Object.keys(made.modules) : made.originalFileNames;
        for (const file of from) files.add(join(import.meta.dirname, file.startsWith("/") ? "" : ".", file));
        if (made.type === "chunk") for (const file of from) files.add(file);
      }
      const folders = new Set([...files].flatMap((file) => packageOf(file) ?? []));
      const texts = [...folders].map((folder) => {
        const { name, version, license } = described(folder);
        const found = readdirSync(folder).find((each) => /^(licen[cs]e|copying)/i.test(each));
        const text = found ? readFileSync(join(folder, found), "utf8").trim() : "";
        return `${name ?? ""} ${version ?? ""}: ${license ?? "see below"}\n\n${text}`;
      });
      const head = "Packages and fonts that go out with this page, each under its own licence.";
      const source = [head, ...texts.sort()].join("\n\n----------------------------------------\n\n");
      this.emitFile({ type: "asset", fileName: "third-party.txt", source: `${source}\n` });
    },
  };
}
