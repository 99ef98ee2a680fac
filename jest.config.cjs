/** Two projects: the core and other pure code, and the services against a real MariaDB (started by the test script). */
const transform = {
  "^.+\\.(t|j)sx?$": [
    "@swc/jest",
    {
      jsc: {
        parser: { syntax: "typescript", tsx: true },
        target: "es2022",
        transform: { react: { runtime: "automatic" } },
      },
      module: { type: "commonjs" },
    },
  ],
};
const shared = {
  testEnvironment: "node",
  // Within a test every global is looked up outside it, tens of times slower than a local one; what the core counts with is not.
  sandboxInjectedGlobals: ["Math", "Number", "Infinity", "Object", "Array", "Map", "Set", "Int32Array", "Float64Array"],
  transform,
  transformIgnorePatterns: [
    "/node_modules/(?!(uuid|temporal-polyfill|temporal-utils|canonicalize|is-any-array|ml-[a-z-]+)/)",
  ],
  moduleNameMapper: {
    "^~/(.*)$": "<rootDir>/app/$1",
    "^@core$": "<rootDir>/core/index.ts",
    "^@db$": "<rootDir>/db/index.ts",
    // Its package exports an ES module only, which Jest's CommonJS resolver does not look for.
    "^canonicalize$": "<rootDir>/node_modules/canonicalize/lib/canonicalize.js",
  },
};
module.exports = {
  // A database, a busy machine: how long a test takes is no matter of right or wrong.
  testTimeout: 60_000,
  projects: [
    {
      ...shared,
      displayName: "unit",
      roots: ["<rootDir>/core", "<rootDir>/db", "<rootDir>/app", "<rootDir>/server", "<rootDir>/schemas"],
      testMatch: ["**/*.test.ts", "**/*.test.tsx"],
    },
    {
      ...shared,
      displayName: "integration",
      roots: ["<rootDir>/app", "<rootDir>/db"],
      testMatch: ["**/*.itest.ts"],
      setupFiles: ["<rootDir>/app/testing/own-schema.cjs"],
    },
  ],
};
