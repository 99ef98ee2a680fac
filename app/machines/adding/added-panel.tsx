import { Form, Link } from "react-router";

import { useIsLead } from "~/people/use-me";
import { Notice } from "~/ui/notice";
import { Section } from "~/ui/section";

import type { ToCheck } from "./added.server";

/** Says on the page of what was added on the spot that no lead has looked at it; a lead says that it is right. */
export function AddedNotice({ by, change, first }: { by: string | null; change: string; first?: string }) {
  const lead = useIsLead();
  return (
    <Notice title={`Added on the spot${by === null ? "" : ` by ${by}`}`}>
      <p>
        {lead ? "Look it over: name, serial number, what it owes." : "It works like any other. A lead looks it over."}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {lead && (
          <Form method="post">
            <button name="intent" value="looked-over" className="btn btn-main">
              It is right
            </button>
          </Form>
        )}
        {lead && (
          <Link to={change} className="btn">
            Change it
          </Link>
        )}
        {first && (
          <Link to={first} className="btn">
            What it owes
          </Link>
        )}
      </div>
    </Notice>
  );
}

/** What waits for a lead's look, where a lead begins the day. */
export function AddedOnTheSpot({ added: { machines, sites } }: { added: ToCheck }) {
  if (machines.length + sites.length === 0) return null;
  return (
    <Section id="added" title="Added on the spot" className="mb-6">
      <ul className="panel divide-y divide-line">
        {sites.map((site) => (
          <li key={site.id} className="relative px-3 py-2 hover:bg-sunken">
            <Link to={`/sites/${site.id}`} className="font-semibold wrap-anywhere after:absolute after:inset-0">
              {site.name}
            </Link>{" "}
            <span className="text-sm text-ink-soft">site</span>
          </li>
        ))}
        {machines.map((machine) => (
          <li key={machine.id} className="relative px-3 py-2 hover:bg-sunken">
            <Link to={`/machines/${machine.id}`} className="font-semibold wrap-anywhere after:absolute after:inset-0">
              {machine.name}
            </Link>{" "}
            <span className="figure text-sm text-ink-soft">{machine.tag}</span>
          </li>
        ))}
      </ul>
    </Section>
  );
}
