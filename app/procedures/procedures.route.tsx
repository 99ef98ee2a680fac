import { shortName } from "@core";
import { Form, Link, redirect } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { fileText } from "~/kit/server/file-text.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { Day } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { FamilyGlyph } from "~/ui/family-glyph";
import { FAMILIES, familyName } from "~/ui/family-names";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";

import type { Route } from "./+types/procedures.route";
import { importDraft, listDrafts, startFromNothing } from "./drafts.server";
import { librarySchema, newProcedureSchema, procedureFileSchema } from "./procedure-schemas";
import { listProcedures } from "./procedures.server";

export const meta: Route.MetaFunction = () => [{ title: "Procedures – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { q = null, family = null } = readQuery(request, librarySchema);
    return {
      procedures: await listProcedures({ q, family }),
      drafts: await listDrafts(),
      q: q ?? "",
      family: family ?? "",
    };
  });
}

/** Begins a draft: from nothing, or from a procedure in the open format. */
export function action(args: Route.ActionArgs) {
  return formAction(args, {
    new: form(newProcedureSchema, async ({ title, family }, who, now) => {
      const known = Object.entries(FAMILIES).find(([, name]) => name === family);
      const chosen = { title, family: known?.[0] ?? shortName(family) };
      return redirect(`/book/drafts/${await startFromNothing(who, chosen, now)}`);
    }),
    "take-in": form(procedureFileSchema, async ({ file }, who, now) =>
      redirect(`/book/drafts/${await importDraft(who, await fileText(file), now)}`),
    ),
  });
}

export default function Procedures({ loaderData, actionData }: Route.ComponentProps) {
  const problem = allFaults(answerTo(actionData, "take-in"));
  const refused = allFaults(answerTo(actionData, "new"));
  const { procedures, drafts, q, family } = loaderData;
  return (
    <div className="max-w-4xl">
      <PageHead
        back={
          <>
            <Link to="/book">Book</Link>
          </>
        }
        title="Procedures"
      />
      <Form method="get" className="mb-4 flex flex-wrap items-end gap-3">
        <div className="min-w-52 flex-1">
          <label htmlFor="q" className="block text-sm font-semibold">
            Words in titles and steps
          </label>
          <input id="q" name="q" type="search" defaultValue={q} className="field" />
        </div>
        <div>
          <label htmlFor="family" className="block text-sm font-semibold">
            Family
          </label>
          <select
            id="family"
            name="family"
            defaultValue={family}
            className="field"
            onChange={(event) => event.currentTarget.form?.requestSubmit()}
          >
            <option value="">All families</option>
            {Object.entries(FAMILIES).map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
        <button className="btn">Show</button>
      </Form>
      <WriteNew refused={refused} />
      <Disclosure title="Take in a procedure as JSON" open={problem !== null} className="mb-4">
        {problem && <Notice tone="problem">{problem}</Notice>}
        <Form method="post" encType="multipart/form-data" className="mt-2 flex flex-wrap items-end gap-3">
          <input type="hidden" name="intent" value="take-in" />
          <div>
            <label htmlFor="file" className="mb-1 block font-semibold">
              File in the open format
            </label>
            <input id="file" name="file" type="file" accept="application/json,.json" className="field py-2" />
          </div>
          <button className="btn">Begin a draft with it</button>
        </Form>
      </Disclosure>
      {drafts.length > 0 && (
        <Section id="drafts" title="Drafts" className="mb-5">
          <ul className="panel divide-y divide-line border-2 border-ink">
            {drafts.map((draft) => (
              <li key={draft.id} className="relative px-3 py-2.5 hover:bg-sunken">
                <Link to={`/book/drafts/${draft.id}`} className="font-semibold after:absolute after:inset-0">
                  {draft.title || draft.procedureId}
                </Link>
                <p className="text-sm text-ink-soft">
                  {draft.byName}, <Day at={draft.changedAt} />
                </p>
              </li>
            ))}
          </ul>
        </Section>
      )}
      {procedures.length === 0 ? (
        <p className="panel p-6">
          {q || family ? "Nothing fits. Try fewer words, or another family." : "None published yet."}
        </p>
      ) : (
        <ul className="panel divide-y divide-line">
          {procedures.map((one) => (
            <li key={one.id} className="relative flex items-center gap-4 px-3 py-2.5 hover:bg-sunken">
              <FamilyGlyph family={one.family} />
              <div className="min-w-0 flex-1">
                <Link
                  to={`/book/procedures/${one.id}`}
                  className="font-semibold wrap-anywhere after:absolute after:inset-0"
                >
                  {one.title}
                </Link>
                <p className="text-sm text-ink-soft">
                  {familyName(one.family)} · {one.who}
                </p>
              </div>
              <span className="text-right text-sm">
                <span className="figure">{one.handsOn} min</span>
                {one.waiting > 0 && <span className="block text-ink-soft">+ {one.waiting} waiting</span>}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function WriteNew({ refused }: { refused: string | null }) {
  return (
    <Disclosure title="Write a new procedure" open={refused !== null} className="mb-1">
      {refused && <Notice tone="problem">{refused}</Notice>}
      <Form method="post" className="mt-2 mb-3 grid items-end gap-3 sm:grid-cols-[1fr_1fr_auto]">
        <input type="hidden" name="intent" value="new" />
        <div>
          <label htmlFor="new-title" className="mb-1 block font-semibold">
            Title
          </label>
          <input id="new-title" name="title" className="field" maxLength={200} autoComplete="off" />
        </div>
        <div>
          <label htmlFor="new-family" className="mb-1 block font-semibold">
            Which machines it is for
          </label>
          <input id="new-family" name="family" className="field" list="families" maxLength={60} autoComplete="off" />
          <datalist id="families">
            {Object.values(FAMILIES).map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </div>
        <button className="btn">Begin a draft</button>
      </Form>
    </Disclosure>
  );
}
