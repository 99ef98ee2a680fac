import { Form, Link, redirect } from "react-router";

import { jobOf, KEPT_DAYS, stopJob } from "~/kit/jobs/jobs.server";
import { isOpen } from "~/kit/jobs/open-states";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { actorOf } from "~/people/session.server";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { titleOf } from "~/ui/title-of";
import { useAskAgain } from "~/ui/use-ask-again";

import type { Route } from "./+types/bundle.route";
import { bundleIn } from "./bundle-in";
import { progressWords } from "./progress-words";
import { sizeWords } from "./size-words";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => data.job.title, "Bundle") },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return served(async () => ({ job: await jobOf(actorOf(context), params.bundleId), keptDays: KEPT_DAYS }));
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    stop: form(NOTHING, async (_, who, now) => {
      await stopJob(who, args.params.bundleId, now);
      return redirect(`/book/bundles/${args.params.bundleId}`);
    }),
  });
}

export default function Bundle({ loaderData }: Route.ComponentProps) {
  const { job, keptDays } = loaderData;
  const { said, counted, again } = bundleIn(job.what);
  const open = isOpen(job);
  useAskAgain(open);
  return (
    <div className="max-w-2xl">
      <PageHead
        back={
          <>
            <Link to="/book">Book</Link> · <Link to="/book/bundles">Bundles</Link>
          </>
        }
        title={job.title}
        subtitle={counted}
      />
      {said.length > 0 && (
        <ul className="mb-4 list-disc pl-5" aria-label="Narrowed by">
          {said.map((words) => (
            <li key={words} className="wrap-anywhere">
              {words}
            </li>
          ))}
        </ul>
      )}
      {open && <Progress job={job} />}
      {job.state === "done" && (
        <section className="panel p-4">
          <p role="status" className="mb-3 text-lg font-semibold">
            It is made.
          </p>
          <ul className="space-y-2">
            {job.files.map((file) => (
              <li key={file.name}>
                <a href={`/book/bundles/${job.id}/${file.name}`} className="btn btn-main">
                  {file.name.endsWith(".pdf") ? "Open the PDF" : "Save the CSV"}
                </a>{" "}
                <span className="text-ink-soft">{sizeWords(file.bytes)}</span>
              </li>
            ))}
          </ul>
          <p className="mt-3 text-sm text-ink-soft">
            It stays here for {keptDays} days. The records themselves stay in the book.
          </p>
        </section>
      )}
      {job.state === "failed" && (
        <Notice tone="problem" title="It was not made">
          {job.message}
        </Notice>
      )}
      {job.state === "stopped" && <Notice title="It was stopped">Nothing of it was kept.</Notice>}
      {!open && (
        <p className="mt-4">
          <Link to={`/book?${new URLSearchParams(again)}`}>Find these records again</Link>
        </p>
      )}
    </div>
  );
}

function Progress({ job }: { job: Route.ComponentProps["loaderData"]["job"] }) {
  const { done, total } = job;
  const words = job.state === "waiting" ? "Waiting for its turn" : progressWords(job);
  return (
    <section className="panel p-4">
      <p id="progress" role="status" className="mb-2 font-semibold">
        {words}
      </p>
      <progress className="h-4 w-full" max={Math.max(1, total)} value={done} aria-labelledby="progress" />
      <p className="mt-2 text-sm">You can go on meanwhile: it is made in the background, and waits under Bundles.</p>
      <Form method="post" className="mt-3">
        <button name="intent" value="stop" className="btn">
          Stop it
        </button>
      </Form>
    </section>
  );
}
