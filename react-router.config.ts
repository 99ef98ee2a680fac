import type { Config } from "@react-router/dev/config";

export default {
  ssr: true,
  // A build has a folder of its own, named after its sources, so that a new one never changes what a running app serves.
  buildDirectory: process.env.HOUND_BUILD_DIR ?? "build/dev",
  // Every page is known from the start: without a connection the router would leave the page to ask for it.
  routeDiscovery: { mode: "initial" },
  future: {
    v8_middleware: true,
    v8_splitRouteModules: true,
    v8_viteEnvironmentApi: true,
    v8_passThroughRequests: true,
    v8_trailingSlashAwareDataRequests: true,
  },
} satisfies Config;
