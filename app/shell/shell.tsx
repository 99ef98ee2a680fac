import { clsx } from "clsx";
import { type ReactNode, useState } from "react";
import { Form, NavLink, useLocation } from "react-router";

import { OutboxStatus } from "~/sheet/log/outbox-status";
import { VisitBar } from "~/sheet/open-sheets-bar";
import { HoundMark } from "~/ui/hound-mark";

import { FindDialog } from "./find-dialog";
import { HeldBar } from "./held-bar";
import { ThemeSwitch } from "./theme-switch";

const PLACES = [
  ["/round", "Round"],
  ["/ahead", "Ahead"],
  ["/machines", "Machines"],
  ["/stores", "Stores"],
  ["/book", "Book"],
] as const;

/** The five places: a slim bar at the top on wide screens, at the bottom on phones. */
export function Shell({ person, children }: { person: { id: string; name: string } | null; children: ReactNode }) {
  // On a sheet the thumb bar of the step has the lower edge of a phone.
  const { pathname } = useLocation();
  const onSheet = pathname.startsWith("/sheet/") || pathname.startsWith("/practice/");
  // There its head is the sheets in hand and the most urgent clock; what else is in it unfolds.
  const folds = pathname.startsWith("/sheet/") && person !== null;
  const [unfoldedAt, setUnfoldedAt] = useState<string | null>(null);
  const unfolded = unfoldedAt === pathname;
  return (
    <>
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-surface focus:p-3">
        Skip to the content
      </a>
      <header className="no-print sticky top-0 z-30 border-b-2 border-ink bg-ground">
        <div
          className={clsx("mx-auto max-w-6xl items-center gap-4 px-4", folds && !unfolded ? "hidden sm:flex" : "flex")}
        >
          <NavLink
            to="/round"
            className="flex shrink-0 items-center gap-2 py-1.5 font-bold no-underline"
            aria-label="Humble Hound, to the round"
          >
            <HoundMark />
            <span className="hidden lg:inline">Humble Hound</span>
          </NavLink>
          {person ? (
            <>
              <nav aria-label="Places" className="hidden flex-1 gap-1 sm:flex">
                <Places className="px-3 py-2.5" />
              </nav>
              <div className="ml-auto flex items-center gap-3 text-sm">
                <FindDialog />
                <ThemeSwitch />
                <span className="max-w-40 truncate" title={person.name}>
                  {person.name}
                </span>
                <Form method="post" action="/sign-out">
                  <button className="min-h-11 underline underline-offset-4">Sign out</button>
                </Form>
              </div>
            </>
          ) : (
            <div className="ml-auto">
              <ThemeSwitch />
            </div>
          )}
        </div>
        {person && (
          <VisitBar
            {...(folds ? { fold: { unfolded, onFold: () => setUnfoldedAt(unfolded ? null : pathname) } } : {})}
          />
        )}
        <HeldBar />
      </header>
      {person && <OutboxStatus personId={person.id} />}
      <main id="main" className="mx-auto max-w-6xl px-4 pt-5 pb-28 sm:pb-12">
        {children}
      </main>
      {person && !onSheet && (
        <nav
          aria-label="Places"
          className="no-print fixed inset-x-0 bottom-0 z-30 flex border-t-2 border-ink bg-ground pb-[env(safe-area-inset-bottom)] sm:hidden"
        >
          <Places className="min-h-12 flex-1 px-1 pt-3 text-center" />
        </nav>
      )}
    </>
  );
}

function Places({ className }: { className: string }) {
  return PLACES.map(([to, name]) => (
    <NavLink
      key={to}
      to={to}
      prefetch="intent"
      className={({ isActive }) =>
        `${className} no-underline border-b-4 ${isActive ? "border-tan-fill font-bold" : "border-transparent hover:border-line"}`
      }
    >
      {name}
    </NavLink>
  ));
}
