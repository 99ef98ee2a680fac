import js from "@eslint/js";
import prettier from "eslint-config-prettier";
import reactHooks from "eslint-plugin-react-hooks";
import { defineConfig } from "eslint/config";
import ts from "typescript-eslint";

export default defineConfig(
  { ignores: ["build/", "node_modules/", ".react-router/", ".data/", "test-results/", "**/*.cjs"] },
  js.configs.recommended,
  {
    files: ["**/*.{ts,tsx}"],
    extends: [ts.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      // Routes throw responses and redirects: that is how React Router refuses.
      "@typescript-eslint/only-throw-error": "off",
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": ["error", { disallowTypeAnnotations: false }],
    },
  },
  // Jest's matchers (expect.stringContaining …) are typed any.
  { files: ["**/*.{test,itest,spec}.ts"], rules: { "@typescript-eslint/no-unsafe-assignment": "off" } },
  reactHooks.configs.flat["recommended-latest"],
  {
    files: ["**/*.{js,mjs}"],
    languageOptions: {
      globals: {
        process: "readonly",
        console: "readonly",
        URL: "readonly",
        fetch: "readonly",
        setTimeout: "readonly",
        clearTimeout: "readonly",
        setInterval: "readonly",
        clearInterval: "readonly",
      },
    },
  },
  prettier,
);
