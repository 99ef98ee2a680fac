import { readFileSync } from "node:fs";
import { join } from "node:path";

import { AT_HAND } from "./pages-at-hand";

it("names pages that there are", () => {
  const routes = readFileSync(join(process.cwd(), "app/routes.ts"), "utf8");
  for (const page of AT_HAND) expect(routes).toContain(`"${page}.tsx"`);
});
