import { clockTime } from "@core";
import { Form, useFetcher } from "react-router";

import { inPercent } from "~/kit/in-percent";
import { OnDay } from "~/ui/day";
import { Section } from "~/ui/section";

import type { Extra } from "./extras.server";

/** What comes due before long on the day's machines and has room: looked for when it is asked. */
export function ExtrasPanel({ href }: { href: string }) {
  const found = useFetcher<{ extras: Extra[] }>();
  const extras = found.data?.extras;
  return (
    <Section id="extras" title="While you are there" panel>
      {!extras && (
        <p className="mb-2 text-sm text-ink-soft">What comes due in four weeks on the same machines, and has room.</p>
      )}
      <div role="status">
        {extras?.length === 0 && <p>Nothing more that the day has room for.</p>}
        {found.state === "loading" && <p>Looking…</p>}
      </div>
      {extras && extras.length > 0 && (
        <ul className="divide-y divide-line">
          {extras.map((one) => (
            <li key={one.dutyId} className="py-2">
              <p className="font-semibold wrap-anywhere">
                {one.title}, {one.machineName}
              </p>
              <p className="text-sm text-ink-soft">
                Due <OnDay on={one.dueOn} />.{" "}
                {one.minutes === 0 ? (
                  "No minute later"
                ) : (
                  <>
                    <span className="figure">{one.minutes} min</span> later
                  </>
                )}
                : back at <span className="figure">{clockTime(one.endAt)}</span>, holds in{" "}
                <span className="figure">{inPercent(one.holds)}</span>.
              </p>
              <Form method="post" preventScrollReset>
                <input type="hidden" name="duty" value={one.dutyId} />
                <button
                  className="min-h-11 underline"
                  name="intent"
                  value="put-on"
                  aria-label={`Put ${one.title}, ${one.machineName}, on the day`}
                >
                  Put it on the day
                </button>
              </Form>
            </li>
          ))}
        </ul>
      )}
      {!extras && (
        <button
          type="button"
          className="btn w-full"
          aria-disabled={found.state !== "idle"}
          onClick={() => void found.load(href)}
        >
          Look for more
        </button>
      )}
    </Section>
  );
}
