import { Form } from "react-router";

import { useIsLead } from "~/people/use-me";

/** Closed while something does not hold. */
export function PublishDraft({
  revision,
  newest,
  saved,
  holds,
}: {
  revision: number;
  newest: number;
  saved: boolean;
  holds: boolean;
}) {
  const lead = useIsLead();
  const open = holds && saved;
  return (
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
            aria-disabled={!open}
            onClick={(event) => !open && event.preventDefault()}
          >
            {!holds ? "Mend it first" : saved ? `Publish version ${newest + 1}` : "Saving …"}
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
  );
}
