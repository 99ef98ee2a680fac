import { inWords } from "@core";
import { Form, Link } from "react-router";

import { shortDay } from "~/kit/days/day-time";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";

import type { Route } from "./+types/gateway.route";
import { gatewayView } from "./gateway.server";
import { parkedSchema } from "./gateway-schemas";
import { settleParked } from "./parked.server";

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

/** The instant of a reading, when it is one. */
function when(at: unknown): string {
  const instant = typeof at === "string" ? new Date(at) : new Date(NaN);
  if (Number.isNaN(instant.getTime())) return `at ${String(at).slice(0, 40)}`;
  const iso = instant.toISOString();
  return `${shortDay(iso.slice(0, 10), new Date().toISOString())} ${iso.slice(11, 16)} UTC`;
}

export default function Gateway({ loaderData, actionData }: Route.ComponentProps) {
  const { state, meters, parked, parkedCount, configured } = loaderData;
  const wrong = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  return (
    <>
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link>
          </>
        }
        title="Gateway"
        subtitle="Readings that machine controllers send by themselves, and values that wait for a person."
      />
      {wrong && <Notice tone="problem">{wrong}</Notice>}
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
          <Form method="post">
            <ul className="panel divide-y divide-line">
              {parked.map((one) => (
                <li key={one.id} className="flex gap-x-3 p-3">
                  <input
                    type="checkbox"
                    name="parked"
                    value={one.id}
                    defaultChecked={parked.length === 1}
                    aria-label={`${one.ref}, ${one.machineName ?? "no machine"}: ${String(one.value)}`}
                    className="mt-1 size-6 shrink-0 accent-(--fill)"
                  />
                  <div className="min-w-0 flex-1">
                    <p className="wrap-anywhere">
                      {one.sheetId ? (
                        <span className="font-semibold">{inWords(one.ref)}</span>
                      ) : (
                        <span className="figure font-semibold">{one.ref}</span>
                      )}
                      {one.machineId && (
                        <>
                          {" · "}
                          <Link to={`/machines/${one.machineId}`}>{one.machineName}</Link>
                        </>
                      )}
                      {one.sheetId && (
                        <>
                          {" · "}
                          <Link to={`/book/records/${one.sheetId}`}>the sheet</Link>
                        </>
                      )}
                    </p>
                    <p className="text-sm wrap-anywhere">
                      <span className="figure">{String(one.value)}</span>, {when(one.at)}. {one.reason}
                    </p>
                  </div>
                </li>
              ))}
            </ul>
            {/* Close to the list's end, in reach however long it is. */}
            <div className="sticky bottom-14 z-10 flex flex-wrap gap-2 border-t border-line bg-ground py-3 sm:bottom-0">
              <button name="intent" value="taken" className="btn">
                Take the ticked
              </button>
              <button name="intent" value="dropped" className="btn">
                Drop the ticked
              </button>
            </div>
          </Form>
        )}
      </Section>
    </>
  );
}
