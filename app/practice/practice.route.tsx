import { Form, Link, redirect } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { Day } from "~/ui/day";
import { FamilyGlyph } from "~/ui/family-glyph";
import { familyName } from "~/ui/family-names";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { Table } from "~/ui/table";

import type { Route } from "./+types/practice.route";
import { beginFault, practiceList } from "./practice.server";
import { beginSchema } from "./practice-schemas";
import { Runs } from "./runs";

export const meta: Route.MetaFunction = () => [{ title: "Practice · Humble Hound" }];

export function loader({ context }: Route.LoaderArgs) {
  return served(() => practiceList(actorOf(context)));
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    begin: form(beginSchema, async ({ family, again }, who, now) =>
      redirect(`/machines/practice/${await beginFault(who, { family, again: again ?? null }, now)}`),
    ),
  });
}

/** Machines to practise on, and how practice went: one's own, and everybody's for a lead. */
export default function Practice({ loaderData, actionData }: Route.ComponentProps) {
  const { own, others, people, families, isLead } = loaderData;
  const answer = answerTo(actionData, "begin");
  return (
    <>
      <PageHead back={<Link to="/machines">Machines</Link>} title="Practice" />
      <p className="mb-4 max-w-prose">
        A machine that does not exist, with a fault that nobody tells. Find it, and leave the machine as it belongs.
        Nothing is due by it, no stock moves. A whole sheet is practised from its procedure&apos;s page.
      </p>
      {answer.message && <Notice tone="problem">{answer.message}</Notice>}
      <Section id="families" title="Find a fault on">
        <Form method="post">
          <input type="hidden" name="intent" value="begin" />
          <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
            {families.map((family) => (
              <li key={family}>
                <button name="family" value={family} className="btn btn-big h-full w-full justify-start text-left">
                  <FamilyGlyph family={family} size={36} />
                  <span className="wrap-anywhere">{familyName(family)}</span>
                </button>
              </li>
            ))}
          </ul>
        </Form>
      </Section>
      <div className="mt-7 space-y-7">
        <Section id="own" title="Your practice">
          {own.length === 0 ? <p className="panel p-4">Nothing practised yet.</p> : <Runs runs={own} />}
        </Section>
        {isLead && (
          <Section id="people" title="Who has practised what">
            {people.length === 0 ? (
              <p className="panel p-4">Nobody has finished a practice yet.</p>
            ) : (
              <Table caption="Practice by person and family">
                <thead>
                  <tr>
                    <th scope="col">Person</th>
                    <th scope="col">Family</th>
                    <th scope="col">Finished</th>
                    <th scope="col">Passed on new machines</th>
                    <th scope="col">Last</th>
                  </tr>
                </thead>
                <tbody>
                  {people.map((one) => (
                    <tr key={`${one.personId} ${one.family}`}>
                      <td>{one.byName}</td>
                      <td>{familyName(one.family)}</td>
                      <td className="figure">{one.runs}</td>
                      <td className="figure">{one.passed}</td>
                      <td>
                        <Day at={one.lastAt} />
                      </td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            )}
          </Section>
        )}
        {others.length > 0 && (
          <Section id="others" title="Practised last by others">
            <Runs runs={others} withNames />
          </Section>
        )}
      </div>
    </>
  );
}
