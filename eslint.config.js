import js from "@eslint/js";
import { defineConfig } from "eslint/config";
import reactHooks from "eslint-plugin-react-hooks";
import importSort from "eslint-plugin-simple-import-sort";
import ts from "typescript-eslint";

export default defineConfig(
  { ignores: ["build/", "node_modules/", ".react-router/", ".data/", "test-results/", "**/*.cjs"] },
  js.configs.recommended,
  {
    plugins: { "simple-import-sort": importSort },
    rules: {
      "simple-import-sort/imports": "error",
      "no-duplicate-imports": ["error", { allowSeparateTypeImports: true }],
      complexity: ["error", 25],
      "max-depth": ["error", 4],
      "max-params": ["error", 5],
      "max-lines-per-function": ["error", { max: 120 }],
      "max-lines": ["error", 400],
    },
  },
  {
    files: ["**/*.{ts,tsx}"],
    extends: [ts.configs.strictTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      // The compiler knows what is defined.
      "no-undef": "off",
      // Routes throw responses and redirects: that is how React Router refuses.
      "@typescript-eslint/only-throw-error": "off",
      // Figures and answers of yes or no belong into sentences.
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true, allowBoolean: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      // A callback may answer false and need not answer at all.
      "@typescript-eslint/no-invalid-void-type": "off",
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      // A type out of server code must leave no import behind in the browser's build.
      "@typescript-eslint/no-import-type-side-effects": "error",
      // Each a tenth of the linter's time. There is not one enum here, and no class is handed about as a value.
      "@typescript-eslint/no-unsafe-enum-assignment": "off",
      "@typescript-eslint/no-unsafe-class-instance-assignment": "off",
      "@typescript-eslint/consistent-type-imports": ["error", { disallowTypeAnnotations: false }],
    },
  },
  // The search runs over flat arrays by index: a check at every step would cost what the layout gains.
  { files: ["core/visit/**"], rules: { "@typescript-eslint/no-non-null-assertion": "off" } },
  // A describe is a list of tests, no function to be read as one.
  { files: ["**/*.{test,itest,spec}.ts", "**/*.test.tsx"], rules: { "max-lines-per-function": "off" } },
  // To be rebuilt: the sheet, the editor of procedures and the day's page keep their size until then.
  {
    files: [
      "app/sheet/{sheet.route,sheet-tools,practice.route}.tsx",
      "app/sheet/steps/{measure,safety}-step.tsx",
      "app/procedures/draft.route.tsx",
      "app/round/day/{day.route,score,stop-panel}.tsx",
    ],
    rules: { "max-lines": "off", "max-lines-per-function": "off", complexity: "off" },
  },
  // Jest's matchers (expect.stringContaining …) are typed any.
  { files: ["**/*.{test,itest,spec}.ts"], rules: { "@typescript-eslint/no-unsafe-assignment": "off" } },
  // It compiles every function it sees: only where there are components and hooks.
  {
    files: ["app/**/*.tsx", "app/**/use-*.ts", "app/sheet/sheet-facts.ts"],
    extends: [reactHooks.configs.flat["recommended-latest"]],
  },
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
);
