import { Form, Link, useNavigation } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { Day } from "~/ui/day";
import { Notice } from "~/ui/notice";
import { PlainField } from "~/ui/plain-field";

import { FoundHistory } from "./found-history";
import { effortWords, poorWords, rulesWords } from "./interval-words";
import type { Proposal } from "./list-intervals.server";

/** An interval that findings ask for: from what to what, why, what that does, and the decision. */
export function ProposalCard({ row, lead, answer }: { row: Proposal; lead: boolean; answer: FormAnswer | undefined }) {
  const isOpen = row.status === "open";
  return (
    <li className="panel p-4">
      <h2 className="text-lg wrap-anywhere">
        <Link to={`/duties/${row.dutyId}`}>{row.title}</Link>
      </h2>
      <p className="text-sm text-ink-soft wrap-anywhere">
        <span className="figure">{row.tag}</span> <Link to={`/machines/${row.machineId}`}>{row.machineName}</Link> ·{" "}
        {row.siteName}
      </p>
      <dl className="mt-2 grid gap-x-4 gap-y-1 sm:grid-cols-[6rem_1fr]">
        <dt className="text-ink-soft">{row.status === "accepted" ? "Before" : "Now"}</dt>
        <dd className="wrap-anywhere">{rulesWords(row.oldRules)}</dd>
        <dt className="text-ink-soft">{row.status === "accepted" ? "Since" : "Proposed"}</dt>
        <dd className="font-semibold wrap-anywhere">{rulesWords(row.newRules)}</dd>
        <dt className="text-ink-soft">Because</dt>
        <dd>{row.because}</dd>
        <dt className="text-ink-soft">Work</dt>
        <dd>{effortWords(row)}</dd>
        <dt className="text-ink-soft">Risk</dt>
        <dd>{poorWords(row)}</dd>
      </dl>
      <FoundHistory history={row.history} />
      {!isOpen && (
        <p className="mt-3">
          <strong>{row.status === "accepted" ? "Accepted" : "Refused"}</strong> on{" "}
          <Day at={row.decidedAt ?? row.madeAt} /> by {row.decider ?? "somebody"}: {row.reason}
        </p>
      )}
      {isOpen && row.isOutdated && (
        <div className="mt-3">
          <Notice title="Its rules were changed since">Deciding puts this proposal away; the rules stay.</Notice>
        </div>
      )}
      {isOpen && lead && <Decide row={row} answer={answer} />}
    </li>
  );
}

function Decide({ row, answer }: { row: Proposal; answer: FormAnswer | undefined }) {
  const own = answerTo(answer, "decide", ["proposal", row.id]);
  const busy = useNavigation().state !== "idle";
  return (
    <Form method="post" className="mt-3 flex flex-wrap items-end gap-2 border-t border-line pt-3">
      <input type="hidden" name="intent" value="decide" />
      <input type="hidden" name="proposal" value={row.id} />
      <PlainField
        id={`reason-${row.id}`}
        name="reason"
        label="Why?"
        className="min-w-0 grow basis-72"
        defaultValue={typed(own, "reason") ?? ""}
        answer={own.errors["reason"] ?? (own.message ? [own.message] : undefined)}
      />
      <button name="decision" value="accept" className="btn btn-main" aria-disabled={busy}>
        Accept
      </button>
      <button name="decision" value="refuse" className="btn" aria-disabled={busy}>
        Refuse
      </button>
    </Form>
  );
}
