import { Dialog } from "radix-ui";
import { Form, useNavigate } from "react-router";

import type { DueRow } from "~/duties/due.server";
import { LeadMark, leadWords } from "~/duties/lead-mark";
import { Notice } from "~/ui/notice";

/** What is due and on nobody's day: to be ticked and put on this one. */
export function ChooseWork({
  rows,
  sites,
  siteId,
  closeHref,
  on,
  person,
  problem,
}: {
  rows: DueRow[];
  sites: { id: string; name: string }[];
  siteId: string | null;
  closeHref: string;
  on: string;
  person: string | null;
  /** Why what was chosen could not be put on the day: said here, as the page behind is out of sight. */
  problem: string | null;
}) {
  const navigate = useNavigate();
  const close = (): void => void navigate(closeHref, { preventScrollReset: true });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-3 top-3 bottom-3 z-50 mx-auto max-w-3xl overflow-y-auto border-2 border-ink bg-surface p-5"
        >
          <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
            <Dialog.Title className="text-xl font-bold">Choose duties for this day</Dialog.Title>
            <div className="flex flex-wrap items-end gap-2">
              <Form method="get" preventScrollReset className="flex items-end gap-2">
                <input type="hidden" name="on" value={on} />
                {person && <input type="hidden" name="for" value={person} />}
                <input type="hidden" name="add" value="1" />
                <div>
                  <label htmlFor="choose-site" className="block text-sm font-semibold">
                    Site
                  </label>
                  <select id="choose-site" name="site" defaultValue={siteId ?? ""} className="field">
                    <option value="">All sites</option>
                    {sites.map((site) => (
                      <option key={site.id} value={site.id}>
                        {site.name}
                      </option>
                    ))}
                  </select>
                </div>
                <button className="btn">Show</button>
              </Form>
              <Dialog.Close className="btn">Close</Dialog.Close>
            </div>
          </div>
          {problem && <Notice tone="problem">{problem}</Notice>}
          {rows.length === 0 ? (
            <p>Nothing is due {siteId ? "at this site " : ""}that nobody has planned.</p>
          ) : (
            <Form method="post">
              <ul className="divide-y divide-line border-y border-line">
                {rows.map((row) => (
                  <li key={row.dutyId}>
                    <label className="flex min-h-12 items-center gap-3 py-2 hover:bg-sunken">
                      <input type="checkbox" name="duty" value={row.dutyId} className="size-6 shrink-0" />
                      <span className="w-20 shrink-0 text-center text-xs leading-tight text-ink-soft">
                        <LeadMark
                          state={row.state}
                          anchorOn={row.anchorOn}
                          dueOn={row.dueOn}
                          today={row.today}
                          rivals={row.rivals}
                          foretoldFrom={row.foretoldFrom}
                          foretoldTo={row.foretoldTo}
                          hardStop={row.hardStop}
                          width={72}
                        />
                        {leadWords(row.state, row.dueOn, row.today)}
                      </span>
                      <span className="min-w-0 flex-1 wrap-anywhere">
                        <span className="font-semibold">{row.title}</span>
                        <span className="block text-sm text-ink-soft">
                          {row.machineName}, {row.siteName}
                        </span>
                      </span>
                      <span className="figure shrink-0 text-sm">{row.takes.hands} min hands-on</span>
                    </label>
                  </li>
                ))}
              </ul>
              <div className="sticky -bottom-5 bg-surface py-3">
                <button className="btn btn-main" name="intent" value="put-on">
                  Put them on the day
                </button>
              </div>
            </Form>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
