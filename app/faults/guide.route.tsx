import { Form, Link, redirect } from "react-router";

import { inHours } from "~/kit/days/day-time";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { chanceWords } from "~/sheet/find/find-view";
import { Disclosure } from "~/ui/disclosure";
import { familyName } from "~/ui/family-names";
import { PageHead } from "~/ui/page-head";
import { SafetySign } from "~/ui/safety-sign";
import { Section } from "~/ui/section";
import { Table } from "~/ui/table";
import { titleOf } from "~/ui/title-of";
import { Why } from "~/ui/why";

import type { Route } from "./+types/guide.route";
import { CausesFound } from "./causes-found";
import { addCode, codesOf, endCode, modelsOf } from "./codes.server";
import { CodesOfFamily } from "./codes-of-family";
import { startGuideDraft } from "./editor/guide-drafts.server";
import { addCodeSchema, endCodeSchema } from "./fault-schemas";
import { guideView } from "./faults.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.guide.title, "Faults") },
];

export function loader({ params: { family } }: Route.LoaderArgs) {
  return served(async () => {
    const [view, codes, models] = await Promise.all([guideView(family), codesOf(family, null), modelsOf(family)]);
    return { ...view, codes, models };
  });
}

export function action(args: Route.ActionArgs) {
  const { family } = args.params;
  return formAction(args, {
    draft: form(NOTHING, async (_, who, now) => {
      await startGuideDraft(who, family, now);
      return redirect(`/machines/faults/${family}/draft`);
    }),
    "add-code": form(addCodeSchema, async ({ name, model = "", symptom = null, ...rest }, who, now) => {
      await addCode(who, family, { ...rest, code: name, model, symptom }, now);
      return redirect(`/machines/faults/${family}#codes`);
    }),
    "end-code": form(endCodeSchema, async ({ code }, who, now) => {
      await endCode(who, family, code, now);
    }),
  });
}

/** A family's guide: every symptom with its causes and what they were found to be, every check and remedy. */
export default function Guide({ loaderData, actionData }: Route.ComponentProps) {
  const { guide, symptoms, checks, found, codes, models } = loaderData;
  return (
    <>
      <PageHead
        back={<Link to="/machines/faults">Faults</Link>}
        title={guide.title}
        subtitle={`${familyName(guide.family)} · version ${guide.version}`}
      >
        <Form method="post" action="/machines/practice">
          <input type="hidden" name="intent" value="begin" />
          <button name="family" value={guide.family} className="btn">
            Practise on it
          </button>
        </Form>
        <Form method="post">
          <button name="intent" value="draft" className="btn">
            Write the next version
          </button>
        </Form>
        <a href={`/machines/faults/${guide.family}/guide.json`} className="btn">
          As JSON
        </a>
      </PageHead>
      <p className="mb-4 max-w-prose">{guide.summary}</p>
      <ul className="mb-6 grid gap-x-5 gap-y-2 sm:grid-cols-2">
        {guide.hazards.map((hazard) => (
          <li key={hazard.text} className="flex items-center gap-3">
            <SafetySign kind={hazard.kind} size={40} />
            <span>{hazard.text}</span>
          </li>
        ))}
      </ul>
      <div className="space-y-7">
        <Section id="symptoms" title="What the operator says">
          <ul className="panel divide-y divide-line">
            {symptoms.map((symptom) => (
              <li key={symptom.id} className="p-3">
                <h3 className="font-semibold">“{symptom.says}”</h3>
                <p className="text-sm text-ink-soft">
                  {symptom.first && `First: ${symptom.first}. `}
                  About {inHours(symptom.minutes)} to the cause.
                  {symptom.tell && ` Tell the operator: ${symptom.tell}`}
                </p>
                <Why because={symptom.because} summary="Why so long?" />
                <Disclosure title={`${symptom.causes.length} causes`} label={`Causes of “${symptom.says}”`}>
                  <Table caption={`Causes of “${symptom.says}”`}>
                    <thead>
                      <tr>
                        <th scope="col">Cause</th>
                        <th scope="col">Chance</th>
                        <th scope="col">Nine in ten between</th>
                        <th scope="col">Found</th>
                      </tr>
                    </thead>
                    <tbody>
                      {symptom.causes.map(({ id, name, chance, low, high, n }) => (
                        <tr key={id}>
                          <td>{name}</td>
                          <td className="figure">{chanceWords(chance)}</td>
                          <td className="figure">
                            {Math.round(low * 100)}–{Math.round(high * 100)} %
                          </td>
                          <td className="figure">{n === 0 ? "typical" : n}</td>
                        </tr>
                      ))}
                    </tbody>
                  </Table>
                </Disclosure>
              </li>
            ))}
          </ul>
        </Section>
        <Section id="found" title="Causes found">
          <CausesFound causes={found} family={guide.family} />
        </Section>
        <Section id="codes" title="Codes and function tests">
          <CodesOfFamily key={codes.length} codes={codes} models={models} symptoms={symptoms} answer={actionData} />
        </Section>
        <Section id="checks" title="Checks">
          <ul className="panel divide-y divide-line">
            {checks.map((check) => (
              <li key={check.id} className="p-3">
                <h3 className="font-semibold">
                  {check.title} <span className="font-normal text-ink-soft">{inHours(check.minutes)}</span>
                </h3>
                <p>{check.how}</p>
                <p className="text-sm text-ink-soft">
                  {check.states.length === 0 ? "Whatever state it is in" : check.states.join(", ")}. As it should be:{" "}
                  {check.clear}
                </p>
              </li>
            ))}
          </ul>
        </Section>
      </div>
    </>
  );
}
