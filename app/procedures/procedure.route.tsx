import { inWords, isFaultProcedure, must, type Procedure } from "@core";
import { Form, Link, redirect } from "react-router";

import type { FormAnswer } from "~/kit/forms/form-answer";
import { versionSchema } from "~/kit/forms/search-schemas";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { STEP_KINDS, stepWords, whenWords } from "~/procedures/editor/step-words";
import { together } from "~/procedures/together";
import { triggerWords } from "~/procedures/trigger-words";
import { Day } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { familyName } from "~/ui/family-names";
import { StepFigure } from "~/ui/figure";
import { SubmitButton, TextField } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { SafetySign } from "~/ui/safety-sign";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";
import { useCheckedForm } from "~/ui/use-checked-form";

import type { Route } from "./+types/procedure.route";
import { startDraft, versionsOf } from "./drafts.server";
import { copyProcedureSchema } from "./procedure-schemas";
import { getProcedure } from "./procedures.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.procedure.title, "Procedure") },
];

export function loader({ params, request }: Route.LoaderArgs) {
  return served(async () => {
    const { version = null } = readQuery(request, versionSchema);
    return {
      procedure: await getProcedure(params.procedureId, version),
      versions: await versionsOf(params.procedureId),
    };
  });
}

/** Begins a draft: of the next version, or of a copy for a model. */
export function action(args: Route.ActionArgs) {
  const { procedureId } = args.params;
  return formAction(args, {
    edit: form(NOTHING, async (_, who, now) =>
      redirect(`/book/drafts/${await startDraft(who, procedureId, null, now)}`),
    ),
    copy: form(copyProcedureSchema, async (copy, who, now) =>
      redirect(`/book/drafts/${await startDraft(who, procedureId, copy, now)}`),
    ),
  });
}

export default function ProcedurePage({ loaderData, actionData }: Route.ComponentProps) {
  const { procedure, versions } = loaderData;
  const isFaults = isFaultProcedure(procedure.id);
  return (
    <div className="grid gap-6 lg:grid-cols-[1fr_18rem]">
      <div className="min-w-0">
        <PageHead
          back={
            <>
              <Link to="/book">Book</Link> · <Link to="/book/procedures">Procedures</Link>
            </>
          }
          title={procedure.title}
          subtitle={
            <>
              {familyName(procedure.family)}, version <span className="figure">{procedure.version}</span> ·{" "}
              {procedure.who} · <span className="figure">{procedure.minutes.handsOn} min</span>
              {procedure.minutes.waiting > 0 && (
                <>
                  {" "}
                  and <span className="figure">{procedure.minutes.waiting} min</span> waiting
                </>
              )}
            </>
          }
        />
        <p className="mt-3">{procedure.summary}</p>
        <p className="mt-3">
          <strong>Comes due:</strong> {procedure.plan.triggers.map(triggerWords).join(", or ")}
          {procedure.plan.scaledByHardness && "; sooner where water is hard"}
          {procedure.plan.hardStop && "; the machine stops when it is missed"}
          {useAfterwards(procedure.plan)}.
        </p>
        <ul className="mt-4 space-y-2">
          {procedure.hazards.map((hazard) => (
            <li key={hazard.text} className="flex items-center gap-3">
              <SafetySign kind={hazard.kind} size={32} />
              {hazard.text}
            </li>
          ))}
        </ul>
        <Lists procedure={procedure} />
        <h2 className="mt-6 mb-2 text-lg">Steps</h2>
        <ol className="panel divide-y divide-line">
          {procedure.steps.map((step, i) => (
            <li key={step.id} className="flex gap-3 px-3 py-2.5">
              <span className="figure w-7 shrink-0 text-right text-ink-soft">{i + 1}</span>
              <div className="min-w-0">
                {step.area && step.area !== procedure.steps[i - 1]?.area && (
                  <p className="text-sm font-bold">{step.area}</p>
                )}
                <p className="font-semibold wrap-anywhere">{step.title}</p>
                {step.text && <p>{step.text}</p>}
                <p className="text-sm text-ink-soft">
                  {STEP_KINDS[step.kind]}
                  {stepWords(step) && `: ${stepWords(step)}`}
                  {whenWords(step, procedure) && ` · only ${whenWords(step, procedure)}`}
                </p>
                {step.figure && <StepFigure figure={step.figure} />}
              </div>
            </li>
          ))}
        </ol>
      </div>
      <aside className="space-y-4">
        <div className="panel space-y-2 p-4">
          <Link to={`/practice/${procedure.id}`} className="btn w-full">
            Practise it
          </Link>
          <Link to={`/book/procedures/${procedure.id}/paper`} className="btn w-full">
            Paper sheet
          </Link>
          <a
            href={`/book/procedures/${procedure.id}/json?version=${procedure.version}`}
            className="btn w-full"
            download
          >
            Download as JSON
          </a>
          {isFaults ? (
            <Link to={`/machines/faults/${procedure.family}`} className="btn btn-main w-full">
              Made from the fault guide
            </Link>
          ) : (
            <Form method="post">
              <input type="hidden" name="intent" value="edit" />
              <button className="btn btn-main w-full">Edit a draft</button>
            </Form>
          )}
        </div>
        {!isFaults && <CopyForm title={procedure.title} answer={actionData} />}
        <Section id="versions" title="Versions" panel>
          <ul className="mt-1 space-y-2 text-sm">
            {versions.map((one, i) => (
              <li key={one.version} className="wrap-anywhere">
                <Link to={`?version=${one.version}`}>Version {one.version}</Link>, <Day at={one.createdAt} />
                {one.by && `, ${one.by}`}
                {one.why && `: ${one.why}`}
                {versions[i + 1] && (
                  <>
                    {" · "}
                    <Link
                      to={`/book/procedures/${procedure.id}/compare?from=${must(versions[i + 1]).version}&to=${one.version}`}
                    >
                      what changed
                    </Link>
                  </>
                )}
              </li>
            ))}
          </ul>
        </Section>
      </aside>
    </div>
  );
}

function Lists({ procedure }: { procedure: Route.ComponentProps["loaderData"]["procedure"] }) {
  const rows: [string, string[]][] = [
    ["Protective equipment", procedure.protective],
    ["Tools", procedure.tools],
    ["Materials", procedure.materials.map((one) => `${one.name}, ${one.qty} ${one.unit}`)],
    [
      "Parts",
      procedure.parts.map(
        (one) =>
          `${one.name}${one.pair ? ` (${together(one)})` : ""}${one.uses && one.uses > 1 ? ` (${one.uses} uses)` : ""}`,
      ),
    ],
  ];
  return (
    <dl className="mt-4 grid gap-x-6 gap-y-1 sm:grid-cols-[auto_1fr]">
      {rows
        .filter(([, list]) => list.length > 0)
        .map(([name, list]) => (
          <div key={name} className="contents">
            <dt className="font-semibold">{name}</dt>
            <dd className="wrap-anywhere">{list.join(" · ")}</dd>
          </div>
        ))}
    </dl>
  );
}

function CopyForm({ title, answer }: { title: string; answer: FormAnswer | undefined }) {
  const [form, fields] = useCheckedForm(copyProcedureSchema, answer, {
    form: "copy",
    id: "copy",
    defaultValue: { title },
  });
  return (
    <Disclosure title="Duplicate for a model" look="strong" open={answer?.form === "copy"} className="panel p-4">
      <Form method="post" id={form.id} onSubmit={form.onSubmit} noValidate={form.noValidate} className="mt-2">
        {form.errors && <Notice tone="problem">{form.errors.join(" ")}</Notice>}
        <input type="hidden" name="intent" value="copy" />
        <TextField field={fields.title} label="Title" />
        <TextField field={fields.id} label="Short name" hint="Small letters, digits and hyphens." />
        <SubmitButton>Duplicate</SubmitButton>
      </Form>
    </Disclosure>
  );
}

/** When the machine is needed again, and how long it is not used after the work. */
function useAfterwards({ readyBy, notUntil }: Procedure["plan"]): string {
  return [
    ...(readyBy ? [`ready by ${readyBy}`] : []),
    ...(notUntil?.hours ? [`not used for ${notUntil.hours} h afterwards`] : []),
    ...(notUntil?.done ? [`not used before ${inWords(notUntil.done)} is done`] : []),
  ]
    .map((words) => `; ${words}`)
    .join("");
}
