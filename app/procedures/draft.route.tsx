import { freeName, type Procedure, type Step } from "@core";
import { useMemo, useRef, useState } from "react";
import { Link, redirect } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { AboutEditor } from "~/procedures/editor/about-editor";
import { SECTIONS } from "~/procedures/editor/about-fields";
import { EditorAround } from "~/procedures/editor/field-form";
import { LintPanel } from "~/procedures/editor/lint-panel";
import { mendsOf, mendsOfServer } from "~/procedures/editor/mends";
import { moveStep } from "~/procedures/editor/move-step";
import { PublishDraft } from "~/procedures/editor/publish-draft";
import { SectionsNav } from "~/procedures/editor/sections-nav";
import { StepEditor } from "~/procedures/editor/step-editor";
import { emptyStep } from "~/procedures/editor/step-fields";
import { StepList } from "~/procedures/editor/step-list";
import { STEP_KINDS } from "~/procedures/editor/step-words";
import { useSaving } from "~/procedures/editor/use-saving";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";

import type { Route } from "./+types/draft.route";
import type { DraftFaults } from "./drafts.server";
import {
  dropDraft,
  faultsOfDraft,
  getDraft,
  knownToEditor,
  newestVersionOf,
  publishDraft,
  saveDraft,
} from "./drafts.server";
import { publishSchema, saveDraftSchema } from "./procedure-schemas";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Draft: ${data.procedure.title}`, "Draft") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const draft = await getDraft(params.draftId);
    const { id, body: procedure, revision, baseVersion } = draft;
    return {
      id,
      procedure,
      revision,
      baseVersion,
      newest: await newestVersionOf(procedure.id),
      faults: await faultsOfDraft(procedure),
      known: await knownToEditor(),
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { draftId } = args.params;
  return formAction(args, {
    save: form(saveDraftSchema, async ({ body, revision }, who, now) => ({
      result: await saveDraft(who, draftId, body, revision, now),
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

/** What is edited: a step, or one of the parts beside the steps. */
type Chosen = { step: string } | { section: string };

export default function Draft({ loaderData, actionData }: Route.ComponentProps) {
  const { newest, baseVersion, known } = loaderData;
  const [procedure, setProcedure] = useState<Procedure>(loaderData.procedure);
  const [chosen, setChosen] = useState<Chosen>({ section: "about" });
  const panel = useRef<HTMLElement>(null);
  // What is chosen is in sight: on a phone it stands under the list, else its beginning may be above the window.
  const choose = (next: Chosen): void => {
    setChosen(next);
    requestAnimationFrame(() => panel.current?.scrollIntoView({ block: "start" }));
  };
  const refused = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const { saved, problem, revision, faults } = useSaving<DraftFaults>(
    `/book/drafts/${loaderData.id}`,
    procedure,
    loaderData,
  );
  const found = useMemo(() => mendsOf(procedure), [procedure]);
  const mends = useMemo(() => [...mendsOfServer(faults, procedure), ...found], [faults, found, procedure]);
  const step = "step" in chosen ? (procedure.steps.find((one) => one.id === chosen.step) ?? null) : null;
  const section = SECTIONS.find((one) => "section" in chosen && one.id === chosen.section) ?? null;
  const around = useMemo(
    () => ({ procedure, step: step?.id ?? null, library: known.library, items: known.items }),
    [procedure, step?.id, known],
  );
  const setSteps = (steps: Step[]): void => setProcedure({ ...procedure, steps });
  const chooseStep = (id: string): void => choose({ step: id });
  const putIn = (added: Step, behind: Step | null): void => {
    const place = behind ? procedure.steps.indexOf(behind) + 1 : procedure.steps.length;
    setSteps([...procedure.steps.slice(0, place), added, ...procedure.steps.slice(place)]);
    chooseStep(added.id);
  };
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
      <EditorAround value={around}>
        <div className="grid gap-6 md:grid-cols-[17rem_1fr] xl:grid-cols-[18rem_1fr_17rem]">
          <div className="md:sticky md:top-18 md:max-h-[calc(100dvh-5rem)] md:self-start md:overflow-y-auto">
            <SectionsNav
              label="The procedure"
              sections={SECTIONS}
              chosen={section?.id ?? null}
              onChoose={(id) => choose({ section: id })}
            />
            <nav aria-label="Steps" className="mt-4">
              <AddStep onAdd={(kind) => putIn(emptyStep(kind, freeId(kind, procedure.steps)), step)} />
              <StepList
                steps={procedure.steps}
                chosen={step?.id ?? null}
                findings={mends}
                onChoose={chooseStep}
                onMove={(from, to, aside) => setSteps(moveStep(procedure.steps, from, to, aside))}
              />
            </nav>
          </div>
          <section ref={panel} className="panel min-w-0 scroll-mt-20 self-start p-4" aria-labelledby="edited">
            <h2 id="edited" className="mb-3 text-lg">
              {step ? `Step ${procedure.steps.indexOf(step) + 1}: ${STEP_KINDS[step.kind]}` : section?.title}
            </h2>
            {step && (
              <>
                <StepEditor
                  key={step.id}
                  step={step}
                  procedure={procedure}
                  library={known.library}
                  onChange={(next) => setSteps(procedure.steps.map((one) => (one.id === step.id ? next : one)))}
                />
                <div className="mt-4 flex flex-wrap gap-2 border-t border-line pt-4">
                  <button
                    type="button"
                    className="btn"
                    onClick={() => putIn({ ...step, id: freeId(step.id, procedure.steps) }, step)}
                  >
                    Duplicate the step
                  </button>
                  <button
                    type="button"
                    className="btn"
                    onClick={() => {
                      const place = procedure.steps.indexOf(step);
                      const steps = procedure.steps.filter((one) => one.id !== step.id);
                      const next = steps[Math.min(place, steps.length - 1)];
                      setSteps(steps);
                      setChosen(next ? { step: next.id } : { section: "about" });
                    }}
                  >
                    Take the step out
                  </button>
                </div>
              </>
            )}
            {!step && section && (
              <AboutEditor
                // States that are put in by a button come into its fields anew.
                key={`${section.id} ${(procedure.states ?? []).length} ${procedure.formatVersion}`}
                procedure={procedure}
                section={section}
                onChange={setProcedure}
              />
            )}
          </section>
          <div className="space-y-4 md:col-span-2 xl:sticky xl:top-18 xl:col-span-1 xl:self-start">
            <LintPanel mends={mends} placeOf={(one) => one.step} onChoose={chooseStep} />
            <PublishDraft
              revision={revision}
              newest={newest}
              saved={saved}
              holds={!mends.some((one) => one.severity === "error")}
            />
          </div>
        </div>
      </EditorAround>
    </>
  );
}

function AddStep({ onAdd }: { onAdd: (kind: Step["kind"]) => void }) {
  const [adding, setAdding] = useState<Step["kind"]>("do");
  return (
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
      <button type="button" className="btn" onClick={() => onAdd(adding)}>
        Add
      </button>
    </div>
  );
}

function freeId(wanted: string, steps: readonly Step[]): string {
  return freeName(wanted.replace(/-\d+$/, ""), new Set(steps.map((one) => one.id)));
}
