import { defineConfig } from "@playwright/test";

/** Run by `npm test`, which starts the app on BASE_URL with fresh demo data. */
export default defineConfig({
  testDir: "e2e",
  testMatch: "**/*.spec.ts",
  // Long and drawn tests are for `npm run soak`.
  ...(process.env.HOUND_SOAK ? { grep: /@soak/ } : { grepInvert: /@soak/ }),
  // All specs of a run share one demo firm: in order, one at a time.
  workers: 1,
  fullyParallel: false,
  retries: 0,
  // A busy machine is slow, not wrong.
  timeout: 240_000,
  expect: { timeout: 20_000 },
  forbidOnly: true,
  reporter: [["list"], ["json"]],
  outputDir: process.env.HOUND_TEST_OUTPUT ?? "test-results",
  use: {
    baseURL: process.env.BASE_URL ?? "http://127.0.0.1:7420",
    viewport: { width: 1280, height: 800 },
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
