import { readdirSync } from "node:fs";

import js from "@eslint/js";
import { createNodeResolver, importX } from "eslint-plugin-import-x";
import reactHooks from "eslint-plugin-react-hooks";
import globals from "globals";
import tseslint from "typescript-eslint";

const features = readdirSync(`${import.meta.dirname}/src/features`);

export default tseslint.config(
  { ignores: ["src/api/generated.ts", "node_modules"] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  reactHooks.configs.flat.recommended,
  {
    files: ["src/**/*.{ts,tsx}"],
    languageOptions: { globals: globals.browser },
    plugins: { "import-x": importX },
    settings: { "import-x/resolver-next": [createNodeResolver({ extensions: [".ts", ".tsx", ".js"] })] },
    rules: {
      "import-x/no-cycle": "error",
      // A feature is entered only by its index.
      "import-x/no-restricted-paths": [
        "error",
        {
          zones: [
            ...features.map((feature) => ({
              target: `./src/features/!(${feature})/**/*`,
              from: `./src/features/${feature}`,
              except: ["./index.ts"],
            })),
            // The rig and its frame lie below the features, the parts on the screen below both.
            { target: "./src/features/**/*", from: "./src/rig", except: ["./index.ts"] },
            { target: "./src/rig/**/*", from: "./src/features" },
            // How documents are kept lies below the rig, whatever they are of.
            { target: "./src/keeping/**/*", from: ["./src/features", "./src/rig"] },
            { target: ["./src/features/**/*", "./src/rig/**/*"], from: "./src/keeping", except: ["./index.ts"] },
            { target: "./src/ui/**/*", from: ["./src/features", "./src/rig", "./src/keeping"] },
          ],
        },
      ],
      "max-lines": ["error", 400],
      // A component that is longer than a screen is several.
      "max-lines-per-function": ["error", 80],
      "no-restricted-syntax": ["error", { selector: "Literal[value=/#[0-9a-fA-F]{3,8}\\b/]", message: "Colours live in the theme." }],
    },
  },
  { files: ["src/**/*.test.ts"], rules: { "max-lines-per-function": "off" } },
);
