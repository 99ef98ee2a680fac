/**
 * Imports point one way: core ← db ← the rooms of the app, in the order below, each seeing only what stands before it. By suffix:
 * only `*.server.ts` and `*.sql.ts` touch the database, and only routes and server code take more than types from it. Run by
 * `npm run boundaries` and by the tests.
 */
const ROOMS = [
  "kit",
  "ui",
  "people",
  "bench",
  "procedures",
  "duties",
  "machines",
  "stores",
  "wear",
  "sheet",
  "faults",
  "practice",
  "book",
  "round",
  "ahead",
  "outside",
  "shell",
];
const TEST = "\\.(test|itest)\\.tsx?$|/testing/";
const rule = (name, comment, from, to) => ({ name, comment, severity: "error", from, to });

module.exports = {
  forbidden: [
    rule(
      "core-stands-alone",
      "The core imports only itself and pure packages.",
      { path: "^core/", pathNot: TEST },
      { pathNot: "^core/|^node_modules/" },
    ),
    rule(
      "core-has-no-platform",
      "No Node in the core.",
      { path: "^core/", pathNot: TEST },
      { dependencyTypes: ["core"] },
    ),
    rule(
      "core-has-no-interface",
      "No interface, network or database package in the core.",
      { path: "^core/", pathNot: TEST },
      { path: "node_modules/(react|react-dom|react-router|sequelize|mysql2|express)/" },
    ),
    rule(
      "db-knows-core-only",
      "The database layer knows the core, not the app.",
      { path: "^db/" },
      { path: "^(app|server|scripts|standins)/" },
    ),
    ...ROOMS.slice(0, -1).map((room, i) =>
      rule(
        `${room}-sees-what-stands-before-it`,
        `A room imports only from rooms before it: ${ROOMS.join(" ← ")}.`,
        { path: `^app/${room}/`, pathNot: TEST },
        { path: `^app/(${ROOMS.slice(i + 1).join("|")})/` },
      ),
    ),
    rule(
      "rooms-do-not-know-the-frame",
      "Rooms know neither the root nor the list of routes.",
      { path: `^app/(${ROOMS.join("|")})/`, pathNot: TEST },
      { path: "^app/(root\\.tsx|routes\\.ts|entry\\.)" },
    ),
    rule(
      "only-server-code-touches-the-database",
      "Everything else takes at most row types.",
      { path: "^app/", pathNot: `\\.(server|sql)\\.ts$|${TEST}` },
      { path: "^db/", dependencyTypesNot: ["type-only"] },
    ),
    rule(
      "server-code-stays-on-the-server",
      "Components and pure logic take only types from server code; pages and workers of the server may call it.",
      { path: "^app/", pathNot: `\\.(server|sql)\\.tsx?$|\\.route\\.tsx?$|^app/root\\.tsx$|\\.worker\\.ts$|${TEST}` },
      { path: "\\.(server|sql)\\.tsx?$", dependencyTypesNot: ["type-only"] },
    ),
    rule(
      "server-code-knows-no-components",
      "What the server does is no matter of looks.",
      { path: "\\.server\\.ts$" },
      { path: "^app/.*\\.tsx$" },
    ),
    rule(
      "routes-are-not-imported",
      "A page is an end: what two of them share stands beside them.",
      { path: "^app/" },
      { path: "\\.route\\.tsx?$" },
    ),
    rule(
      "tests-are-not-imported",
      "Helpers of tests are for tests.",
      { path: "^(app|core|db|server)/", pathNot: TEST },
      { path: TEST },
    ),
    rule(
      "no-drivers-in-the-app",
      "Sequelize and its driver are behind db/.",
      { path: "^(app|core|server)/" },
      { path: "node_modules/(sequelize|mysql2|umzug)/" },
    ),
    rule(
      "standins-are-apart",
      "Stand-ins are programs of their own: nothing imports them, they import nothing of ours.",
      { path: "^standins/" },
      { path: "^(app|core|db|server)/" },
    ),
    rule(
      "nothing-imports-standins",
      "The app reaches stand-ins over HTTP only.",
      { path: "^(app|core|db|server)/" },
      { path: "^standins/" },
    ),
    rule("no-circles", "No circular imports.", {}, { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } }),
    rule(
      "every-file-has-a-room",
      "Nothing of the app lies outside the rooms.",
      { path: `^app/(?!(${ROOMS.join("|")}|testing|styles)/|root\\.tsx|routes\\.ts|entry|vite-env)` },
      {},
    ),
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^(build|\\.react-router|\\.data)/|\\+types/" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
