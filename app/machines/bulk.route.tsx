import { Form, Link } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { machineSearchSchema } from "~/kit/forms/search-schemas";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { listSites } from "~/machines/sites/sites.server";
import { SubmitButton } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";

import type { Route } from "./+types/bulk.route";
import { machineFilter } from "./machine-filter.server";
import { bulkSchema } from "./machine-schemas";
import { changeMachines, listMachines } from "./machines.server";

export const meta: Route.MetaFunction = () => [{ title: "Change many machines – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const filter = await machineFilter(readQuery(request, machineSearchSchema));
    return {
      ...(await listMachines(filter)),
      sites: await listSites(),
      query: new URL(request.url).searchParams.toString(),
    };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    change: form(bulkSchema, async ({ ids, area, siteId, addOption, dropOption }, who, now) => {
      const change = {
        area: area ?? null,
        siteId: siteId ?? null,
        addOption: addOption ?? null,
        dropOption: dropOption ?? null,
      };
      return `${await changeMachines(who, ids, change, now)} changed.`;
    }),
  });
}

export default function MachinesBulk({ loaderData, actionData }: Route.ComponentProps) {
  const problem = allFaults(answerTo(actionData, "change"));
  const { rows, next, sites, query } = loaderData;
  return (
    <>
      <PageHead
        back={
          <>
            <Link to={`/machines?${query}`}>Machines</Link>
          </>
        }
        title="Change many machines"
      />
      {problem && <Notice tone="problem">{problem}</Notice>}
      {actionData?.said && <Notice title={actionData.said} />}
      {rows.length === 0 ? (
        <p className="panel p-6">
          No machine here. <Link to="/machines">Find some first</Link>.
        </p>
      ) : (
        <Form method="post" className="mt-3 grid gap-6 lg:grid-cols-[1fr_20rem]">
          <fieldset className="panel min-w-0 p-3">
            <legend className="sr-only">Which machines</legend>
            <ul className="divide-y divide-line">
              {rows.map((row) => (
                <li key={row.id}>
                  <label className="flex min-h-11 items-center gap-3 py-1">
                    <input type="checkbox" name="ids" value={row.id} className="size-5 shrink-0" />
                    <span className="min-w-0 flex-1 wrap-anywhere">
                      {row.name}
                      <span className="block text-sm text-ink-soft">
                        {row.siteName}
                        {row.area && `, ${row.area}`}
                      </span>
                    </span>
                    <span className="figure text-sm">{row.tag}</span>
                  </label>
                </li>
              ))}
            </ul>
          </fieldset>
          <Section id="change" title="Change the ticked ones" panel className="self-start lg:sticky lg:top-16">
            <p className="mb-2 text-sm">What is left empty stays as it is.</p>
            <Field name="area" label="Area" />
            <label htmlFor="bulk-site" className="mt-2 block font-semibold">
              Site
            </label>
            <select id="bulk-site" name="siteId" className="field">
              <option value="">–</option>
              {sites.map((site) => (
                <option key={site.id} value={site.id}>
                  {site.name}
                </option>
              ))}
            </select>
            <Field name="addOption" label="Add the option" />
            <Field name="dropOption" label="Take away the option" />
            <div className="mt-3">
              <SubmitButton>Change them</SubmitButton>
            </div>
          </Section>
        </Form>
      )}
      {next && (
        <p className="mt-4">
          <Link
            to={`?${new URLSearchParams({ ...Object.fromEntries(new URLSearchParams(query)), after: next })}`}
            className="btn"
          >
            Next 50
          </Link>
        </p>
      )}
    </>
  );
}

function Field({ name, label }: { name: string; label: string }) {
  return (
    <>
      <label htmlFor={`bulk-${name}`} className="mt-2 block font-semibold">
        {label}
      </label>
      <input id={`bulk-${name}`} name={name} className="field" maxLength={120} />
    </>
  );
}
