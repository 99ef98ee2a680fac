import { Form, Link, redirect } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { tableSchema } from "~/kit/forms/table-schema";
import { fileText } from "~/kit/server/file-text.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { COLUMNS } from "~/machines/machines.server";
import { SubmitButton } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/import.route";
import { checkImport } from "./imports.server";

export const meta: Route.MetaFunction = () => [{ title: "Import machines – Humble Hound" }];

export function loader() {
  return { columns: [...COLUMNS] };
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    check: form(tableSchema, async ({ file }, who, now) =>
      redirect(`/machines/import/${await checkImport(who, file.name, await fileText(file), now)}`),
    ),
  });
}

export default function Import({ loaderData, actionData }: Route.ComponentProps) {
  const problem = allFaults(answerTo(actionData, "check"));
  return (
    <div className="max-w-3xl">
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link>
          </>
        }
        title="Import machines"
      />
      {problem && <Notice tone="problem">{problem}</Notice>}
      <Form method="post" encType="multipart/form-data" className="panel mt-3 p-5">
        <label htmlFor="file" className="mb-1 block font-semibold">
          CSV file, one line a machine
        </label>
        <p className="mb-2 text-sm text-ink-soft">
          It is checked first. You see every fault before anything goes in. A machine whose tag is known is brought up
          to date.
        </p>
        <input id="file" name="file" type="file" accept=".csv,text/csv" className="field mb-4" />
        <SubmitButton>Check the file</SubmitButton>{" "}
        <a href="/machines/import.csv" className="btn" download>
          A file to fill in
        </a>
      </Form>
      <h2 className="mt-6 mb-1 text-lg">Columns</h2>
      <p>
        The first line names them: <span className="figure text-sm">{loaderData.columns.join(", ")}</span>.
      </p>
      <ul className="mt-2 list-disc space-y-1 pl-5">
        <li>
          Needed: customer, site, time_zone (such as <span className="figure">Europe/Lisbon</span>), tag, name, family
          (such as <span className="figure">flake-ice-maker</span> or Flake ice maker).
        </li>
        <li>
          Comma, semicolon or tab between cells; days such as 2026-04-03, or as your spreadsheet writes them: what can
          be meant in two ways is asked; several options with | between them.
        </li>
        <li>duties_from is the day duties count from, for example the last service; empty means today.</li>
      </ul>
    </div>
  );
}
