import { readdirSync } from "node:fs";
import js from "@eslint/js";
import { createNodeResolver, importX } from "eslint-plugin-import-x";
import jsxA11y from "eslint-plugin-jsx-a11y";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// From the ground up: a folder imports those before it, and no folder of its own row. The screens stand
// beside each other, and only the app knows them all.
const FLOORS = [
  ["ui"],
  ["api"],
  ["words"],
  ["pack"],
  ["review"],
  ["page", "margin", "rail", "spine"],
  ["frame"],
  ["desk", "figures", "footing", "rulebook", "places", "beside", "issue", "history", "documents", "group"],
  ["app"],
];
// A folder that is on no floor could be imported from anywhere.
const folders = readdirSync(new URL("./src", import.meta.url), { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map((entry) => entry.name);
const unlisted = folders.filter((folder) => !FLOORS.flat().includes(folder));
if (unlisted.length > 0)
  throw new Error(`Put these folders on a floor in eslint.config.js: ${unlisted.join(", ")}`);
const zones = FLOORS.slice(0, -1).flatMap((row, floor) =>
  row.map((folder) => ({
    target: `./src/${folder}`,
    from: FLOORS.flatMap((others, above) => (above >= floor ? others : []))
      .filter((other) => other !== folder)
      .map((other) => `./src/${other}`),
    message: `${folder} stands below it, or beside it.`,
  })),
);

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strictTypeChecked,
  jsxA11y.flatConfigs.strict,
  reactHooks.configs.flat.recommended,
  {
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { "import-x": importX },
    settings: {
      "import-x/resolver-next": [createNodeResolver({ extensions: [".ts", ".tsx"] })],
      "import-x/parsers": { "@typescript-eslint/parser": [".ts", ".tsx"] },
    },
    rules: {
      "import-x/no-cycle": "error",
      "import-x/no-restricted-paths": ["error", { zones }],
      "max-lines-per-function": ["error", { max: 150, skipComments: true }],
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      // The WAI-ARIA grid pattern: a table whose figures arrows move between.
      "jsx-a11y/no-noninteractive-element-to-interactive-role": [
        "error",
        { table: ["grid"], td: ["gridcell"] },
      ],
      // A region that scrolls has to take the focus, so that it scrolls by keyboard too.
      "jsx-a11y/no-noninteractive-tabindex": ["error", { tags: [], roles: ["tabpanel", "region"] }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
    },
  },
);
