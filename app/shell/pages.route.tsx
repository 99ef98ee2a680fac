import { Outlet } from "react-router";

import type { Route } from "./+types/pages.route";
import { ErrorPage } from "./error-page";

/** Around every page: one that fails leaves the frame with the person's name, the outbox and the way back. */
export default function Pages() {
  return <Outlet />;
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <ErrorPage error={error} />;
}
