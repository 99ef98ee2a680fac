import type { ReactNode } from "react";
import { Form } from "react-router";

import type { LinkView } from "~/kit/server/links.server";

import { useDay } from "./day";
import { Notice } from "./notice";

/** A new address to copy, shown once. */
export function NewLink({
  title,
  label,
  value,
  children,
}: {
  title: string;
  label: string;
  value: string;
  children?: ReactNode;
}) {
  return (
    <div className="mt-3">
      <Notice title={title}>
        <label htmlFor="new-link" className="sr-only">
          {label}
        </label>
        <input
          id="new-link"
          readOnly
          className="field figure mt-1 text-sm"
          value={value}
          onFocus={(event) => event.currentTarget.select()}
        />
        {children}
      </Notice>
    </div>
  );
}

/** Addresses that work, each to be ended. */
export function MadeLinks({ links, what }: { links: readonly LinkView[]; what: string }) {
  const day = useDay();
  if (links.length === 0) return <p className="mt-2 text-sm">No {what} yet.</p>;
  return (
    <ul className="mt-2 text-sm">
      {links.map((link) => (
        <li key={link.id} className="flex flex-wrap items-center gap-3">
          <span>
            Made <span className="figure">{day(link.madeAt)}</span> by {link.by}
          </span>
          <Form method="post">
            <input type="hidden" name="link" value={link.id} />
            <button
              name="intent"
              value="revoke"
              className="min-h-11 underline"
              aria-label={`End the ${what} made ${day(link.madeAt)}`}
            >
              End it
            </button>
          </Form>
        </li>
      ))}
    </ul>
  );
}
