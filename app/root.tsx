import "./styles/app.css";

import type { ReactNode } from "react";
import { Links, Meta, Outlet, Scripts, ScrollRestoration } from "react-router";

import { firmDay } from "~/kit/days/firm-day.server";
import { whoIs } from "~/people/session.server";
import { type RootData, useRootData } from "~/people/use-me";
import { type OpenSheetsAtFirst, openSheetsOf } from "~/sheet/open-sheets.server";
import { ErrorPage } from "~/shell/error-page";
import { guard } from "~/shell/guard.server";
import { Shell } from "~/shell/shell";

import type { Route } from "./+types/root";

export const middleware: Route.MiddlewareFunction[] = [guard];

export async function loader({ context, request }: Route.LoaderArgs): Promise<RootData & OpenSheetsAtFirst> {
  const theme = /(?:^|;\s*)hound_theme=(light|dark)/.exec(request.headers.get("cookie") ?? "")?.[1] ?? null;
  const actor = whoIs(context)?.actor;
  const person = actor ? { id: actor.id, name: actor.name, role: actor.role } : null;
  const now = new Date();
  // Before signing in nobody needs it, and nothing is asked of the database.
  // The sheets come with the page, so that nothing moves under a finger when the bar comes; later the bar asks by itself.
  const opened = person !== null && request.headers.get("sec-fetch-dest") === "document";
  const [timeZone, openSheets] = await Promise.all([
    person ? firmDay(now).then((day) => day.timeZone) : "UTC",
    opened ? openSheetsOf(person.id) : null,
  ]);
  return { theme, person, timeZone, serverNow: now.getTime(), openSheets };
}

export const meta: Route.MetaFunction = () => [{ title: "Humble Hound" }];

export const links: Route.LinksFunction = () => [{ rel: "icon", href: "/favicon.svg", type: "image/svg+xml" }];

export function Layout({ children }: { children: ReactNode }) {
  const data = useRootData();
  return (
    <html lang="en" {...(data?.theme ? { "data-theme": data.theme } : {})} suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1, viewport-fit=cover" />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration />
        <Scripts />
      </body>
    </html>
  );
}

export default function App({ loaderData }: Route.ComponentProps) {
  return (
    <Shell person={loaderData.person}>
      <Outlet />
    </Shell>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return (
    <Shell person={useRootData()?.person ?? null}>
      <ErrorPage error={error} />
    </Shell>
  );
}
