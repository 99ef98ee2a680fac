import { Form, Link, redirect } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { FamilyGlyph } from "~/ui/family-glyph";
import { FAMILIES, familyName } from "~/ui/family-names";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { PlainField } from "~/ui/plain-field";
import { Section } from "~/ui/section";

import type { Route } from "./+types/faults.route";
import { familiesWithDrafts, familyCalled, startGuideDraft } from "./editor/guide-drafts.server";
import { writeGuideSchema } from "./fault-schemas";
import { listGuides } from "./faults.server";

export const meta: Route.MetaFunction = () => [{ title: "Faults · Humble Hound" }];

export function loader() {
  return served(async () => ({ guides: await listGuides(), drafts: await familiesWithDrafts() }));
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    write: form(writeGuideSchema, async ({ name }, who, now) => {
      const family = familyCalled(name);
      await startGuideDraft(who, family, now);
      return redirect(`/machines/faults/${family}/draft`);
    }),
  });
}

/** The guides of all families. */
export default function Faults({ loaderData: { guides, drafts }, actionData }: Route.ComponentProps) {
  const answer = answerTo(actionData, "write");
  return (
    <>
      <PageHead back={<Link to="/machines">Machines</Link>} title="Faults">
        <Link to="/machines/practice" className="btn">
          Practice
        </Link>
      </PageHead>
      {answer.message && <Notice tone="problem">{answer.message}</Notice>}
      {guides.length === 0 ? (
        <p className="panel p-4">No guides yet: a lead publishes those that ship, under First steps.</p>
      ) : (
        <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {guides.map(({ family, title }) => (
            <li key={family}>
              <Link to={`/machines/faults/${family}`} className="panel flex h-full items-center gap-3 p-3 no-underline">
                <FamilyGlyph family={family} size={44} />
                <span className="min-w-0 wrap-anywhere">
                  <span className="block font-semibold underline">{familyName(family)}</span>
                  <span className="block text-sm text-ink-soft">{title}</span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      <WriteGuide guides={guides} drafts={drafts} answer={answer.errors.name} />
    </>
  );
}

/** Drafts that are gone on with, and a guide for a family that has none. */
function WriteGuide({
  guides,
  drafts,
  answer,
}: {
  guides: readonly { family: string }[];
  drafts: readonly string[];
  answer: string[] | undefined;
}) {
  const without = Object.keys(FAMILIES).filter((family) => !guides.some((one) => one.family === family));
  return (
    <Section id="write" title="Write a guide" className="mt-7 max-w-xl">
      {drafts.length > 0 && (
        <ul className="mb-3">
          {drafts.map((family) => (
            <li key={family}>
              <Link to={`/machines/faults/${family}/draft`} className="inline-block min-h-11 py-2">
                Go on with the draft: {familyName(family)}
              </Link>
            </li>
          ))}
        </ul>
      )}
      <Form method="post" className="panel flex flex-wrap items-end gap-3 p-4" noValidate>
        <input type="hidden" name="intent" value="write" />
        <PlainField
          id="name"
          name="name"
          label="For another family"
          hint={without.length > 0 ? `Without one: ${without.map(familyName).join(", ")}.` : "Such as vacuum pump."}
          answer={answer}
          className="min-w-0 flex-1 basis-56"
        />
        <button className="btn">Begin a draft</button>
      </Form>
    </Section>
  );
}
