import { useEffect } from "react";
import { Form, Link, redirect, useRevalidator } from "react-router";

import { Refusal } from "~/kit/refusal";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { logError } from "~/kit/server/log.server";
import { served } from "~/kit/server/served.server";
import { knownFamilies } from "~/machines/adding/new-machine.server";
import { useDayWords } from "~/ui/day";
import { familyName } from "~/ui/family-names";
import { SubmitButton } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { Table } from "~/ui/table";

import type { Route } from "./+types/import-result.route";
import { importDaysSchema, importFamiliesSchema } from "./import-schemas";
import { answerImport, applyImport, claimImport, getImport } from "./imports.server";

export const meta: Route.MetaFunction = () => [{ title: "Import machines – Humble Hound" }];

const SHOWN_FAULTS = 200;
const POLL_MS = 400;

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const found = await getImport(params.importId, new Date());
    return {
      ...found,
      faults: found.faults.slice(0, SHOWN_FAULTS),
      faultCount: found.faults.length,
      badRows: new Set(found.faults.map((fault) => fault.line)).size,
      known: found.asks?.families.length ? await knownFamilies() : [],
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { importId } = args.params;
  return formAction(args, {
    families: form(importFamiliesSchema, async ({ families }, who, now) => {
      const answers = Object.fromEntries(families.map(({ said, family }) => [said, family ?? said]));
      return redirect(`/machines/import/${await answerImport(who, importId, { families: answers }, now)}`);
    }),
    days: form(importDaysSchema, async ({ order }, who, now) =>
      redirect(`/machines/import/${await answerImport(who, importId, { dayOrder: order }, now)}`),
    ),
    apply: form(NOTHING, async (_, __, now) => {
      if (!(await claimImport(importId, now)))
        throw new Refusal(409, "claimed", "This import is done or running already.");
      // It goes on while the page shows the progress; a failure is noted in the import itself.
      void applyImport(importId, now).catch((error: unknown) => {
        logError(`Import ${importId}: ${error instanceof Error ? error.message : String(error)}`);
      });
      return redirect(`/machines/import/${importId}`);
    }),
  });
}

/** Values of the choices that are no family's short name. */
const NEW_FAMILY = "";

export default function ImportResult({ loaderData, actionData }: Route.ComponentProps) {
  const { asks, known, status, goodRows, faults, faultCount, badRows, rowsDone, fileName, message, stopped } =
    loaderData;
  const { revalidate } = useRevalidator();
  useEffect(() => {
    if (status !== "running" || stopped) return;
    const timer = setInterval(() => void revalidate(), POLL_MS);
    return () => clearInterval(timer);
  }, [status, stopped, revalidate]);
  return (
    <div className="max-w-4xl">
      <PageHead
        back={
          <>
            <Link to="/machines">Machines</Link> · <Link to="/machines/import">Import</Link>
          </>
        }
        title={fileName}
      />
      {actionData?.message && <Notice tone="problem">{actionData.message}</Notice>}
      {status === "failed" && (
        <Notice tone="problem" title="The import failed">
          {message} You can try again.
        </Notice>
      )}

      {stopped && (
        <Notice tone="problem" title="The import stopped">
          The server that worked on it went down. Nothing of it is in the register; begin again.
        </Notice>
      )}

      {status === "checked" && <Asked asks={asks} known={known} />}

      <section className="panel p-5" aria-live="polite">
        {status === "done" ? (
          <>
            <p className="text-lg font-semibold">
              <span className="figure">{rowsDone}</span> {rowsDone === 1 ? "machine is" : "machines are"} in the
              register.
            </p>
            <p className="mt-3">
              <Link to="/machines" className="btn btn-main">
                To the machines
              </Link>
            </p>
          </>
        ) : status === "running" && !stopped ? (
          <>
            <label htmlFor="progress" className="text-lg font-semibold">
              Going in: <span className="figure">{rowsDone}</span> of <span className="figure">{goodRows}</span>
            </label>
            <progress
              id="progress"
              max={goodRows}
              value={rowsDone}
              className="mt-2 block h-4 w-full accent-(--tan-fill)"
            />
          </>
        ) : (
          <>
            <p className="text-lg font-semibold">
              <span className="figure">{goodRows}</span> good {goodRows === 1 ? "row" : "rows"}
              {badRows > 0 && (
                <>
                  , <span className="figure">{badRows}</span> with faults
                </>
              )}
            </p>
            <p className="mt-1">Nothing is in the register yet.</p>
            {goodRows > 0 && (
              <Form method="post" className="mt-4">
                <input type="hidden" name="intent" value="apply" />
                <SubmitButton>{putWords(goodRows, badRows)}</SubmitButton>
              </Form>
            )}
          </>
        )}
      </section>

      {faultCount > 0 && (
        <section className="mt-6">
          <h2 className="mb-2 text-lg">
            Faults{" "}
            <span className="figure text-sm font-normal">
              {faultCount > SHOWN_FAULTS ? `first ${SHOWN_FAULTS} of ${faultCount}` : faultCount}
            </span>
          </h2>
          <Table caption="Faults in the file" panel>
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col">Column</th>
                <th scope="col">Reason</th>
              </tr>
            </thead>
            <tbody>
              {faults.map((fault, i) => (
                <tr key={i}>
                  <td className="figure">{fault.line}</td>
                  <td className="figure">{fault.column}</td>
                  <td>{fault.reason}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </section>
      )}
    </div>
  );
}

/** What only a person can tell: asked before anything goes in. */
function Asked({ asks, known }: Pick<Route.ComponentProps["loaderData"], "asks" | "known">) {
  const days = useDayWords();
  const { families = [], day = null } = asks ?? {};
  return (
    <>
      {day && (
        <Section id="asked-day" title={`Which day is ${day.text}?`} panel className="mb-6">
          <p className="mb-2">All days of the file that can be meant in two ways are read like this one.</p>
          <Form method="post" className="flex flex-wrap gap-2">
            <input type="hidden" name="intent" value="days" />
            {(["day-first", "month-first"] as const).map((order, i) => (
              <button key={order} name="order" value={order} className="btn">
                {days(day.either[i as 0 | 1])}
              </button>
            ))}
          </Form>
        </Section>
      )}
      {families.length > 0 && (
        <Section id="asked-families" title="Families that are not known" panel className="mb-6">
          <Form method="post">
            <input type="hidden" name="intent" value="families" />
            {families.map(({ said, nearest, rows }, i) => (
              <div key={said} className="mb-3">
                <input type="hidden" name={`families[${i}].said`} value={said} />
                <label htmlFor={`family-${i}`} className="mb-1 block font-semibold wrap-anywhere">
                  “{said}”, {rows === 1 ? "one row" : `${rows} rows`}
                </label>
                <select
                  id={`family-${i}`}
                  name={`families[${i}].family`}
                  className="field"
                  defaultValue={nearest ?? NEW_FAMILY}
                >
                  <option value={NEW_FAMILY}>It is a new family: nothing is owed until there are procedures</option>
                  {known.map((family) => (
                    <option key={family} value={family}>
                      {family === nearest ? `Did you mean: ${familyName(family)}` : familyName(family)}
                    </option>
                  ))}
                </select>
              </div>
            ))}
            <SubmitButton>Take them so</SubmitButton>
          </Form>
        </Section>
      )}
    </>
  );
}

function putWords(good: number, bad: number): string {
  if (good === 1) return bad > 0 ? "Put the good row in" : "Put the row in";
  return bad > 0 ? `Put the ${good} good rows in` : `Put all ${good} rows in`;
}
