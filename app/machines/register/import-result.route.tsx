import { useEffect } from "react";
import { Form, Link, redirect, useRevalidator } from "react-router";

import { Refusal } from "~/kit/refusal";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { logError } from "~/kit/server/log.server";
import { served } from "~/kit/server/served.server";
import { SubmitButton } from "~/ui/form";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Table } from "~/ui/table";

import type { Route } from "./+types/import-result.route";
import { applyImport, claimImport, getImport } from "./imports.server";

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
    };
  });
}

export function action(args: Route.ActionArgs) {
  const { importId } = args.params;
  return formAction(args, {
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

export default function ImportResult({ loaderData, actionData }: Route.ComponentProps) {
  const { status, goodRows, faults, faultCount, badRows, rowsDone, fileName, message, stopped } = loaderData;
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

function putWords(good: number, bad: number): string {
  if (good === 1) return bad > 0 ? "Put the good row in" : "Put the row in";
  return bad > 0 ? `Put the ${good} good rows in` : `Put all ${good} rows in`;
}
