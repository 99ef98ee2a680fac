import type { FaultGuide, Procedure } from "@core";
import { useMemo, useRef, useState } from "react";
import { Link, redirect } from "react-router";

import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { knownToEditor } from "~/procedures/drafts.server";
import { EditorAround, FieldForm } from "~/procedures/editor/field-form";
import { LintPanel } from "~/procedures/editor/lint-panel";
import { PublishDraft } from "~/procedures/editor/publish-draft";
import { SectionsNav } from "~/procedures/editor/sections-nav";
import { useSaving } from "~/procedures/editor/use-saving";
import { publishSchema, saveDraftSchema } from "~/procedures/procedure-schemas";
import { familyName } from "~/ui/family-names";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/guide-draft.route";
import { dropGuideDraft, guideDraft, type GuideFaults, publishGuideDraft, saveGuideDraft } from "./guide-drafts.server";
import { ABOUT, type ListName, LISTS } from "./guide-fields";
import { type Chosen, GuideLists, nameOf } from "./guide-list";
import { guideMends } from "./guide-mends";

export const meta: Route.MetaFunction = ({ params }) => [
  { title: `Draft: faults, ${familyName(params.family)} – Humble Hound` },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const [draft, { items }] = await Promise.all([guideDraft(params.family), knownToEditor()]);
    return { ...draft, items, family: params.family };
  });
}

export function action(args: Route.ActionArgs) {
  const { family } = args.params;
  return formAction(args, {
    save: form(saveDraftSchema, async ({ body, revision }, who, now) => ({
      result: await saveGuideDraft(who, family, body, revision, now),
    })),
    drop: form(NOTHING, async (_, who, now) => {
      await dropGuideDraft(who, family, now);
      return redirect("/machines/faults");
    }),
    publish: form(publishSchema, async (value, who, now) => {
      await publishGuideDraft(who, family, value, now);
      return redirect(`/machines/faults/${family}`);
    }),
  });
}

// A saved draft is what this window has; loading it anew would only disturb the typing.
export const shouldRevalidate = () => false;

type Row = Readonly<Record<string, unknown>>;

/** The editor of a fault guide: symptoms, checks and causes as forms, the linter beside them; saved by itself. */
export default function GuideDraft({ loaderData, actionData }: Route.ComponentProps) {
  const { family, newest, baseVersion, items } = loaderData;
  const [guide, setGuide] = useState<FaultGuide>(loaderData.guide);
  const [chosen, setChosen] = useState<Chosen>({ section: "about" });
  const panel = useRef<HTMLElement>(null);
  const choose = (next: Chosen): void => {
    setChosen(next);
    requestAnimationFrame(() => panel.current?.scrollIntoView({ block: "start" }));
  };
  const refused = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const { saved, problem, revision, faults } = useSaving<GuideFaults>(
    `/machines/faults/${family}/draft`,
    guide,
    loaderData,
  );
  const mends = useMemo(() => guideMends(guide, faults), [guide, faults]);
  const around = useMemo(
    () => ({
      // Fields that are a procedure's find here what a guide has of it.
      procedure: { ...guide, meters: [], steps: [] } as unknown as Procedure,
      ...{ step: null, library: [], items },
      causes: guide.causes.map(({ id, name }) => ({ id, name: name || "(no name)" })),
    }),
    [guide, items],
  );
  const section = ABOUT.find((one) => "section" in chosen && one.id === chosen.section) ?? null;
  const setRows = (list: ListName, rows: readonly Row[]): void => setGuide({ ...guide, [list]: rows });
  return (
    <>
      <PageHead
        back={<Link to={newest > 0 ? `/machines/faults/${family}` : "/machines/faults"}>Faults</Link>}
        title={guide.title || familyName(family)}
        subtitle={
          <>
            {familyName(family)} · draft of version {newest + 1}{" "}
            <span role="status">{problem ? "" : saved ? "· saved" : "· saving …"}</span>
          </>
        }
      />
      {problem && <Notice tone="problem">{problem}</Notice>}
      {refused && <Notice tone="problem">{refused}</Notice>}
      {newest > baseVersion && baseVersion > 0 && (
        <Notice tone="problem">
          Version {newest} was published since this draft was begun from version {baseVersion}. What changed there is
          not in the draft.
        </Notice>
      )}
      <EditorAround value={around}>
        <div className="grid gap-6 md:grid-cols-[17rem_1fr] xl:grid-cols-[18rem_1fr_17rem]">
          <div className="md:sticky md:top-18 md:max-h-[calc(100dvh-5rem)] md:self-start md:overflow-y-auto">
            <SectionsNav
              label="The guide"
              sections={ABOUT}
              chosen={section?.id ?? null}
              onChoose={(id) => choose({ section: id })}
            />
            <GuideLists
              guide={guide}
              chosen={chosen}
              onChoose={choose}
              onAdd={(list) => {
                setRows(list, [...rowsOf(guide, list), LISTS[list].empty]);
                choose({ list, at: guide[list].length });
              }}
            />
          </div>
          <section ref={panel} className="panel min-w-0 scroll-mt-20 self-start p-4" aria-labelledby="edited">
            {section && (
              <>
                <h2 id="edited" className="mb-3 text-lg">
                  {section.title}
                </h2>
                <FieldForm
                  key={section.id}
                  at={`about-${section.id}`}
                  specs={section.fields}
                  value={guide as unknown as Row}
                  onChange={(next) => setGuide(next as unknown as FaultGuide)}
                />
              </>
            )}
            {"list" in chosen && (
              <RowEditor
                key={`${chosen.list} ${chosen.at}`}
                list={chosen.list}
                at={chosen.at}
                rows={rowsOf(guide, chosen.list)}
                onRows={(rows) => setRows(chosen.list, rows)}
                onGone={() => setChosen({ section: "about" })}
              />
            )}
          </section>
          <div className="space-y-4 md:col-span-2 xl:sticky xl:top-18 xl:col-span-1 xl:self-start">
            <LintPanel mends={mends} placeOf={(one) => one.place} onChoose={choose} />
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

const rowsOf = (guide: FaultGuide, list: ListName): Row[] => guide[list] as unknown as Row[];

function RowEditor({
  list,
  at,
  rows,
  onRows,
  onGone,
}: {
  list: ListName;
  at: number;
  rows: readonly Row[];
  onRows: (rows: readonly Row[]) => void;
  onGone: () => void;
}) {
  const row = rows[at];
  if (!row) return null;
  return (
    <>
      <h2 id="edited" className="mb-3 text-lg wrap-anywhere">
        {LISTS[list].title}: {nameOf(list, row) || "(no name)"}
      </h2>
      <FieldForm
        at={`${list}-${at + 1}`}
        specs={LISTS[list].fields}
        value={row}
        rows={rows}
        onChange={(next) => onRows(rows.map((one, i) => (i === at ? next : one)))}
      />
      <div className="mt-4 border-t border-line pt-4">
        <button
          type="button"
          className="btn"
          onClick={() => {
            onRows(rows.filter((_, i) => i !== at));
            onGone();
          }}
        >
          Take the {LISTS[list].one} out
        </button>
      </div>
    </>
  );
}
