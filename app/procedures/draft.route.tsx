import type { Procedure, Step } from "@core";
import { useEffect, useMemo, useState } from "react";
import { Form, Link, redirect, useFetcher } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { useIsLead } from "~/people/use-me";
import { AboutEditor } from "~/procedures/editor/about-editor";
import { LintPanel, mendsOf } from "~/procedures/editor/lint-panel";
import { StepEditor } from "~/procedures/editor/step-editor";
import { emptyStep } from "~/procedures/editor/step-fields";
import { StepList } from "~/procedures/editor/step-list";
import { STEP_KINDS } from "~/procedures/editor/step-words";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/draft.route";
import { dropDraft, getDraft, newestVersionOf, publishDraft, saveDraft } from "./drafts.server";
import { publishSchema, saveDraftSchema } from "./procedure-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Draft: ${data.procedure.title}`, "Draft") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const draft = await getDraft(params.draftId);
    const { id, body: procedure, revision, baseVersion } = draft;
    return { id, procedure, revision, baseVersion, newest: await newestVersionOf(procedure.id) };
  });
}

export function action(args: Route.ActionArgs) {
  const { draftId } = args.params;
  return formAction(args, {
    save: form(saveDraftSchema, async ({ body, revision }, who, now) => ({
      result: { revision: await saveDraft(who, draftId, body, revision, now) },
    })),
    drop: form(NOTHING, async (_, who, now) => {
      await dropDraft(who, draftId, now);
      return redirect("/book/procedures");
    }),
    publish: form(publishSchema, async (value, who, now) => {
      const { id } = await publishDraft(who, draftId, value, now);
      return redirect(`/book/procedures/${id}`);
    }),
  });
}

// A saved draft is what this window has; loading it anew would only disturb the typing.
export const shouldRevalidate = () => false;

export default function Draft({ loaderData, actionData }: Route.ComponentProps) {
  const [procedure, setProcedure] = useState<Procedure>(loaderData.procedure);
  const [chosen, setChosen] = useState<string | null>(loaderData.procedure.steps[0]?.id ?? null);
  const [adding, setAdding] = useState<Step["kind"]>("do");
  const lead = useIsLead();
  const { newest, baseVersion } = loaderData;
  const refused = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const { saved, problem, revision } = useSaving(loaderData.id, procedure, loaderData.revision);
  const mends = useMemo(() => mendsOf(procedure), [procedure]);
  const step = procedure.steps.find((one) => one.id === chosen) ?? null;
  const setSteps = (steps: Step[]): void => setProcedure({ ...procedure, steps });
  const add = (): void => {
    const id = freeId(adding, procedure.steps);
    const place = step ? procedure.steps.indexOf(step) + 1 : procedure.steps.length;
    setSteps([...procedure.steps.slice(0, place), emptyStep(adding, id), ...procedure.steps.slice(place)]);
    setChosen(id);
  };
  const errors = mends.filter((one) => one.severity === "error").length;
  return (
    <>
      <PageHead
        back={
          <>
            <Link to="/book/procedures">Procedures</Link>
          </>
        }
        title={procedure.title || "(no title)"}
        subtitle={
          <>
            Draft of version {newest + 1} <span role="status">{problem ? "" : saved ? "· saved" : "· saving …"}</span>
          </>
        }
      >
        <Link to={`/practice/${procedure.id}?draft=${loaderData.id}`} className="btn">
          Try it
        </Link>
        <button type="button" className="btn" aria-pressed={chosen === null} onClick={() => setChosen(null)}>
          Everything but steps
        </button>
      </PageHead>
      {problem && <Notice tone="problem">{problem}</Notice>}
      {refused && <Notice tone="problem">{refused}</Notice>}
      {baseVersion > 0 && newest > baseVersion && (
        <Notice tone="problem">
          Version {newest} was published since this draft was begun from version {baseVersion}. What changed there is
          not in the draft:{" "}
          <Link to={`/book/procedures/${procedure.id}/compare?from=${baseVersion}&to=${newest}`}>compare</Link> before
          you publish.
        </Notice>
      )}
      <div className="grid gap-6 md:grid-cols-[17rem_1fr] xl:grid-cols-[18rem_1fr_17rem]">
        <nav aria-label="Steps">
          <div className="mb-2 flex gap-2">
            <label htmlFor="kind" className="sr-only">
              Kind of the new step
            </label>
            <select
              id="kind"
              className="field"
              value={adding}
              onChange={(event) => setAdding(event.target.value as Step["kind"])}
            >
              {Object.entries(STEP_KINDS).map(([kind, name]) => (
                <option key={kind} value={kind}>
                  {name}
                </option>
              ))}
            </select>
            <button type="button" className="btn" onClick={add}>
              Add
            </button>
          </div>
          <StepList
            steps={procedure.steps}
            chosen={chosen}
            findings={mends}
            onChoose={setChosen}
            onMove={(from, to) => {
              const steps = [...procedure.steps];
              steps.splice(to, 0, ...steps.splice(from, 1));
              setSteps(steps);
            }}
          />
        </nav>
        <section className="panel min-w-0 p-4" aria-label={step ? "Step" : "Everything but steps"}>
          {step ? (
            <>
              <StepEditor
                key={step.id}
                step={step}
                onChange={(next) => setSteps(procedure.steps.map((one) => (one.id === step.id ? next : one)))}
              />
              <div className="mt-4 flex gap-2 border-t border-line pt-4">
                <button
                  type="button"
                  className="btn"
                  onClick={() => {
                    const id = freeId(step.id, procedure.steps);
                    const place = procedure.steps.indexOf(step) + 1;
                    setSteps([...procedure.steps.slice(0, place), { ...step, id }, ...procedure.steps.slice(place)]);
                    setChosen(id);
                  }}
                >
                  Duplicate the step
                </button>
                <button
                  type="button"
                  className="btn"
                  onClick={() => {
                    const place = procedure.steps.indexOf(step);
                    const steps = procedure.steps.filter((one) => one.id !== step.id);
                    setSteps(steps);
                    setChosen(steps[Math.min(place, steps.length - 1)]?.id ?? null);
                  }}
                >
                  Take the step out
                </button>
              </div>
            </>
          ) : (
            <AboutEditor procedure={procedure} onChange={setProcedure} />
          )}
        </section>
        <div className="space-y-4 md:col-span-2 xl:col-span-1">
          <LintPanel mends={mends} onChoose={setChosen} />
          <section className="panel p-4">
            <h2 className="text-lg">Publish</h2>
            {lead ? (
              <Form method="post" className="mt-2">
                <input type="hidden" name="intent" value="publish" />
                <input type="hidden" name="revision" value={revision} />
                <input type="hidden" name="newest" value={newest} />
                <label htmlFor="why" className="mb-1 block font-semibold">
                  Why does it change?
                </label>
                <textarea id="why" name="why" className="field" rows={2} maxLength={500} />
                <button
                  className="btn btn-main mt-2"
                  aria-disabled={errors > 0 || !saved}
                  onClick={(event) => (errors > 0 || !saved) && event.preventDefault()}
                >
                  {errors > 0 ? "Mend it first" : `Publish version ${newest + 1}`}
                </button>
              </Form>
            ) : (
              <p className="mt-1 text-sm">A lead publishes it. Open sheets stay on their version.</p>
            )}
            <Form method="post" className="mt-3">
              <input type="hidden" name="intent" value="drop" />
              <button className="min-h-11 underline underline-offset-4">Throw the draft away</button>
            </Form>
          </section>
        </div>
      </div>
    </>
  );
}

const SAVE_AFTER_MS = 800;

/** Saves a moment after the last change; a save that was refused keeps the text in the window and says why. */
function useSaving(
  id: string,
  procedure: Procedure,
  first: number,
): { saved: boolean; problem: string | null; revision: number } {
  const fetcher = useFetcher<FormAnswer<{ revision: number }>>();
  const [revision, setRevision] = useState(first);
  const text = useMemo(() => JSON.stringify(procedure), [procedure]);
  const [savedText, setSavedText] = useState(text);
  const [sentText, setSentText] = useState(text);
  const [taken, setTaken] = useState<unknown>(null);
  const { state, data: answer, submit } = fetcher;
  if (state === "idle" && answer?.result && answer !== taken) {
    setTaken(answer);
    setRevision(answer.result.revision);
    setSavedText(sentText);
  }
  const problem = state === "idle" && answer ? allFaults(answerTo(answer, "save")) : null;
  useEffect(() => {
    if (text === savedText || state !== "idle" || problem) return;
    const timer = setTimeout(() => {
      setSentText(text);
      void submit(
        { intent: "save", body: text, revision: String(revision) },
        { method: "post", action: `/book/drafts/${id}` },
      );
    }, SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [text, savedText, state, problem, submit, id, revision]);
  return { saved: text === savedText, problem, revision };
}

function freeId(wanted: string, steps: readonly Step[]): string {
  const taken = new Set(steps.map((one) => one.id));
  const base = wanted.replace(/-\d+$/, "");
  for (let n = 2; ; n++) if (!taken.has(`${base}-${n}`)) return `${base}-${n}`;
}
