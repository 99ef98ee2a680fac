import type { ReactNode } from "react";

/** Names and what they are: of a machine, a site, an item. Facts without a value are left out. */
export function FactList({
  facts,
}: {
  facts: readonly (readonly [name: string, value: ReactNode, figure?: boolean])[];
}) {
  return (
    <dl className="panel divide-y divide-line px-4 py-1">
      {facts
        .filter(([, value]) => value !== null && value !== undefined && value !== false && value !== "")
        .map(([name, value, figure]) => (
          <div key={name} className="py-2">
            <dt className="text-sm text-ink-soft">{name}</dt>
            <dd className={figure ? "figure wrap-anywhere" : "wrap-anywhere"}>{value}</dd>
          </div>
        ))}
    </dl>
  );
}
