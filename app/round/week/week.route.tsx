import { addDays } from "@core";
import { Link, useLocation, useNavigation } from "react-router";

import { dayInWords } from "~/kit/days/day-time";
import { allFaults, answerTo } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { served } from "~/kit/server/served.server";
import { listFamilies } from "~/machines/machines.server";
import { changeChance } from "~/round/chance.server";
import { PutBack } from "~/round/day/put-back";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/week.route";
import { breakRules } from "./break-fields";
import { NoPlace, ProposalBar } from "./proposal-bar";
import { proposeWeek } from "./propose-week.server";
import { useProposal } from "./use-proposal";
import { changeWorker, putWeek, undoWeek, weekView } from "./week.server";
import { Chance, PersonWays, WeekOfPerson } from "./week-parts";
import {
  chanceSchema,
  parseRoute,
  putWeekSchema,
  undoWeekSchema,
  weekSchema,
  weekSearchSchema,
  workerSchema,
} from "./week-schemas";

export const meta: Route.MetaFunction = () => [{ title: "The week – Humble Hound" }];

export function loader({ request }: Route.LoaderArgs) {
  return served(async () => {
    const { from } = readQuery(request, weekSearchSchema);
    return {
      ...(await weekView(from ?? null, new Date())),
      families: await listFamilies(),
    };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    propose: form(weekSchema, async ({ from }, _, now) => ({
      result: { proposal: await proposeWeek(from, now), moved: null },
    })),
    put: form(putWeekSchema, async ({ from, route }, who, now) => {
      const { put, meanwhile, before, duties } = await putWeek(who, from, route.map(parseRoute), now);
      const kept = meanwhile > 0 ? ` ${meanwhile} had been planned by somebody meanwhile and stay there.` : "";
      return {
        said: `${put} duties are on people's days now.${kept}`,
        result: { proposal: null, moved: { before, duties } },
      };
    }),
    undo: form(undoWeekSchema, async ({ duties, before }, who, now) => {
      await undoWeek(who, { duties, before }, now);
      return `Undone: ${before.length} duties are where they were before.`;
    }),
    chance: form(chanceSchema, async ({ percent }, who, now) => {
      await changeChance(who, percent / 100, now);
      return `Days that are proposed hold in at least ${percent} % of cases from now on.`;
    }),
    worker: form(workerSchema, async ({ person, seen, dayFrom, dayTo, family, site, ...rest }, who, now) => {
      const breaks = breakRules([
        { minutes: rest.break1Minutes, from: rest.break1From, by: rest.break1By },
        { minutes: rest.break2Minutes, from: rest.break2From, by: rest.break2By },
      ]);
      await changeWorker(who, person, { dayFrom, dayTo, breaks, families: family, territory: site }, now, seen);
      return "Saved.";
    }),
  });
}

export default function RoundWeek({ loaderData, actionData }: Route.ComponentProps) {
  const { from, days, people, planned, open, sites, families, chance } = loaderData;
  const navigation = useNavigation();
  const { key } = useLocation();
  const proposing = navigation.state === "submitting" && navigation.formData?.get("intent") === "propose";
  const problem = actionData ? allFaults(answerTo(actionData, actionData.form)) : null;
  const own = useProposal(from, key);
  // Without the page's script the form's own answer has it.
  const proposal = own.state.kind === "there" ? own.state.proposal : (actionData?.result?.proposal ?? null);
  const moved = actionData?.result?.moved ?? null;
  return (
    <div aria-busy={navigation.state !== "idle"}>
      <PageHead
        back={
          <>
            <Link to="/round">Round</Link>
          </>
        }
        title="The week"
        subtitle={
          <>
            From {dayInWords(from)}. <span className="figure">{open}</span> {open === 1 ? "duty is" : "duties are"} due
            by its end and on nobody&apos;s day.
          </>
        }
      >
        <Link to="/ways" className="btn">
          Ways
        </Link>
        <Link to={`?from=${addDays(from, -7)}`} className="btn">
          Week before
        </Link>
        <Link to={`?from=${addDays(from, 7)}`} className="btn">
          Week after
        </Link>
      </PageHead>
      {(actionData?.said ?? problem) && (
        <div className="mb-4">
          <Notice tone={problem ? "problem" : "plain"}>
            {problem ?? actionData?.said}
            {!problem && moved && moved.before.length > 0 && <PutBack moved={moved} label="Undo the week" />}
          </Notice>
        </div>
      )}
      {people.length === 0 && (
        <p className="panel p-5">
          No technicians yet. <Link to="/book/people">Add people</Link> first.
        </p>
      )}

      <ProposalBar people={people} from={from} proposing={proposing} proposal={proposal} own={own} />
      {people.length > 0 && <Chance chance={chance} answer={actionData} key={`chance ${key}`} />}

      <div className="space-y-3">
        {people.map((person) => {
          return (
            <section key={person.id} aria-label={person.name} className="panel p-3">
              <h2 className="text-lg wrap-anywhere">{person.name}</h2>
              <WeekOfPerson days={days} planned={planned} person={person} proposal={proposal} />
              <PersonWays
                // Each answer begins the form anew: with what was saved, or with what was typed.
                key={key}
                person={person}
                from={from}
                families={families}
                sites={sites}
                answer={actionData}
              />
            </section>
          );
        })}
      </div>
      <NoPlace left={proposal?.left ?? []} />
    </div>
  );
}
