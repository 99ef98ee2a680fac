import { Form, Link } from "react-router";

import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";

import type { Route } from "./+types/gateway.route";
import { gatewayView, settleParked } from "./gateway.server";
import { parkedSchema } from "./gateway-schemas";

export const meta: Route.MetaFunction = () => [{ title: "Gateway – Humble Hound" }];

export function loader() {
  return served(async () => {
    return { ...(await gatewayView()), configured: Boolean(process.env.GATEWAY_URL) };
  });
}

export function action(args: Route.ActionArgs) {
  const settle = (as: "taken" | "dropped") =>
    form(parkedSchema, async ({ parked }, who, now) => {
      await settleParked(who, parked, as, now);
    });
  return formAction(args, { dropped: settle("dropped"), taken: settle("taken") });
}

const stamp = (at: Date | null): string =>
  at ? `${new Date(at).toISOString().slice(0, 16).replace("T", " ")} UTC` : "never";

export default function Gateway({ loaderData, actionData }: Route.ComponentProps) {
  const { state, meters, parked, parkedCount, configured } = loaderData;
  return (
    <>
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link>
          </>
        }
        title="Gateway"
        subtitle="Readings that machine controllers send by themselves."
      />
      {actionData?.message && <Notice tone="problem">{actionData.message}</Notice>}
      {!configured && (
        <Notice title="No gateway is set up on this server">
          Whoever runs the server sets GATEWAY_URL. <code className="figure">npm run standin:gateway</code> starts a
          simulated one.
        </Notice>
      )}
      {state && (
        <dl className="panel mt-3 grid gap-x-8 gap-y-2 p-4 sm:grid-cols-3">
          <div>
            <dt className="text-sm text-ink-soft">Last answer</dt>
            <dd className="figure">{stamp(state.lastOkAt)}</dd>
          </div>
          <div>
            <dt className="text-sm text-ink-soft">Meters that it feeds</dt>
            <dd className="figure">{meters}</dd>
          </div>
          <div>
            <dt className="text-sm text-ink-soft">Now</dt>
            <dd>
              {state.failures === 0
                ? "It answers."
                : `${state.failures} failed tries, the next ${stamp(state.nextTryAt)}. ${state.message}`}
            </dd>
          </div>
        </dl>
      )}
      <Section
        id="parked"
        title={
          <>
            Parked readings <span className="figure text-sm font-normal text-ink-soft">{parkedCount}</span>
          </>
        }
        className="mt-6"
      >
        {parked.length === 0 ? (
          <p className="panel p-4">None. What cannot be true waits here for you instead of moving a due day.</p>
        ) : (
          <ul className="panel divide-y divide-line">
            {parked.map((one) => (
              <li key={one.id} className="flex flex-wrap items-center gap-x-5 gap-y-1 p-3">
                <div className="min-w-0 flex-1">
                  <p className="wrap-anywhere">
                    <span className="figure font-semibold">{one.ref}</span> {one.machineName && `· ${one.machineName}`}
                  </p>
                  <p className="text-sm wrap-anywhere">
                    <span className="figure">{String(one.value)}</span> at{" "}
                    <span className="figure">{String(one.at).slice(0, 19)}</span>. {one.reason}
                  </p>
                </div>
                <Form method="post" className="flex gap-2">
                  <input type="hidden" name="parked" value={one.id} />
                  <button name="intent" value="taken" className="btn" aria-label={`Take the reading of ${one.ref}`}>
                    Take it
                  </button>
                  <button name="intent" value="dropped" className="btn" aria-label={`Drop the reading of ${one.ref}`}>
                    Drop it
                  </button>
                </Form>
              </li>
            ))}
          </ul>
        )}
      </Section>
    </>
  );
}
