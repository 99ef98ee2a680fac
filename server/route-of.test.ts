import { routeOf } from "./route-of";

it.each([
  ["/", "/"],
  ["/_root.data", "/:id"],
  ["/round.data", "/round"],
  ["/sheet/01a22f1e-381b-771e-a8b8-64aa99dd6f5f/sign", "/sheet/:id/sign"],
  ["/t/HH-6001", "/t/:id"],
  ["/t/sweeper", "/t/:id"],
  ["/o/secret-of-a-link", "/o/:id"],
  ["/stores/items/squeegee-blade", "/stores/items/:id"],
  ["/api/sheets/01a22f1e/entries", "/api/sheets/:id/entries"],
  ["/a/b/c/d/e/f", "/a/b/c/d"],
])("%s is counted as %s", (path, route) => expect(routeOf(path)).toBe(route));
