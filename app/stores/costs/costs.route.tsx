import { lazy, Suspense } from "react";
import { Form, Link, redirect } from "react-router";

import { money } from "~/kit/forms/quantity";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { StoreNav } from "~/stores/items/store-nav";
import { rateSchema } from "~/stores/items/stores-schemas";
import { PageHead } from "~/ui/page-head";
import { PlainField } from "~/ui/plain-field";
import { Section } from "~/ui/section";
import { Table } from "~/ui/table";
import { useHydrated } from "~/ui/use-hydrated";
import { Why } from "~/ui/why";

import type { Route } from "./+types/costs.route";
import { costSpan } from "./cost-span.server";
import { costs, hourlyRateCents, setHourlyRate } from "./costs.server";
import { groupName, SpanForm } from "./span-form";

const CostChart = lazy(() => import("./cost-chart"));

export const meta = () => [{ title: "Costs – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const span = await costSpan(request, new Date());
    return { ...span, rows: await costs(span.by, span.from, span.to), rate: await hourlyRateCents() };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    rate: form(rateSchema, async ({ rate }) => {
      await setHourlyRate(Math.round(rate * 100));
      const { pathname, search } = new URL(args.request.url);
      return redirect(pathname + search);
    }),
  });
}

export default function StoreCosts({ loaderData, actionData }: Route.ComponentProps) {
  const { by, from, to, rows, rate } = loaderData;
  const hydrated = useHydrated();
  const all = rows.reduce((sum, row) => sum + row.partsCents + row.hoursCents, 0);
  return (
    <>
      <PageHead title="Costs">
        <Link to="/stores/costs/down-time" className="btn">
          How machines hold up
        </Link>
      </PageHead>
      <StoreNav />
      <SpanForm by={by} from={from} to={to} csv="/stores/costs.csv" />
      {rows.length === 0 ? (
        <p className="panel p-5">Nothing was used and no sheet was signed in this span.</p>
      ) : (
        <>
          <Section
            id="sum"
            title={
              <>
                <span className="figure">{money(all)}</span> in all
              </>
            }
            panel
            className="mb-5"
          >
            <Why
              because={[
                "Parts and materials count at the price they had on the day they were used; what has no price in the catalogue counts nothing.",
                `Hours are hands-on hours from the logs of signed sheets, at ${money(rate)} each; silences longer than twenty minutes are not counted.`,
              ]}
            />
            {hydrated && (
              <Suspense fallback={<div className="h-72" />}>
                <CostChart rows={rows.slice(0, 12)} />
              </Suspense>
            )}
          </Section>
          <Table caption="Costs" panel className="min-w-xl">
            <thead>
              <tr>
                <th scope="col">{groupName(by)}</th>
                <th scope="col" className="text-right">
                  Services
                </th>
                <th scope="col" className="text-right">
                  Hours
                </th>
                <th scope="col" className="text-right">
                  Hours cost
                </th>
                <th scope="col" className="text-right">
                  Parts cost
                </th>
                <th scope="col" className="text-right">
                  In all
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.key}>
                  <td className="wrap-anywhere">{row.name}</td>
                  <td className="figure text-right">{row.services}</td>
                  <td className="figure text-right">{row.hours.toFixed(1)}</td>
                  <td className="figure text-right">{money(row.hoursCents)}</td>
                  <td className="figure text-right">{money(row.partsCents)}</td>
                  <td className="figure text-right font-semibold">{money(row.hoursCents + row.partsCents)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </>
      )}
      <Form method="post" className="no-print mt-5 flex flex-wrap items-end gap-3">
        <PlainField
          id="rate"
          name="rate"
          label="Euros for an hour"
          inputMode="decimal"
          defaultValue={(rate / 100).toFixed(2)}
          answer={actionData?.errors.rate}
          className="w-44"
        />
        <button className="btn">Count with it</button>
      </Form>
    </>
  );
}
