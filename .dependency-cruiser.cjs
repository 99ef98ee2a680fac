/** Imports point one way: interface → services → core. Run by `npm run boundaries` and by the tests. */
const rule = (name, comment, from, to) => ({ name, comment, severity: "error", from, to });

module.exports = {
  forbidden: [
    rule(
      "core-stands-alone",
      "The core imports only itself and pure packages.",
      { path: "^core/", pathNot: "\\.test\\.ts$|/testing/" },
      { pathNot: "^core/|^node_modules/" },
    ),
    rule(
      "core-has-no-platform",
      "No Node, React, database or network in the core.",
      { path: "^core/", pathNot: "\\.test\\.ts$|/testing/" },
      { dependencyTypes: ["core"] },
    ),
    rule(
      "core-has-no-interface",
      "No interface or database package in the core.",
      { path: "^core/", pathNot: "\\.test\\.ts$|/testing/" },
      { path: "node_modules/(react|react-dom|react-router|sequelize|mysql2|express)/" },
    ),
    rule("db-knows-core-only", "The database layer knows the core, not the app.", { path: "^db/" }, { path: "^(app|server|scripts|standins)/" }),
    rule(
      "only-services-touch-the-database",
      "Routes, components and sheets ask a service.",
      { path: "^app/", pathNot: "^app/services/|^app/access\\.ts$" },
      { path: "^db/" },
    ),
    rule(
      "services-know-no-interface",
      "Services know neither routes nor components; only plain text helpers.",
      { path: "^app/services/" },
      { path: "^app/(routes|components|sheet|bench|procedure|round|stores)/", pathNot: "^app/(components/site-time|sheet/step-outcome)\\.ts$" },
    ),
    rule(
      "shared-is-shared",
      "What browser and server share imports neither side.",
      { path: "^app/shared/" },
      { path: "^(db|server|app/(services|routes|components|sheet))/" },
    ),
    rule(
      "interface-takes-no-server-code",
      "Components and sheets take only types from services.",
      { path: "^app/(components|sheet|ahead|machine|bench|procedure|round|stores)/" },
      { path: "^app/services/", dependencyTypesNot: ["type-only"] },
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
    rule("nothing-imports-standins", "The app reaches stand-ins over HTTP only.", { path: "^(app|core|db|server)/" }, { path: "^standins/" }),
    rule("no-circles", "No circular imports.", {}, { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } }),
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^(build|\\.react-router|\\.data)/|\\+types/" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "require", "node", "default", "types"] },
  },
};
