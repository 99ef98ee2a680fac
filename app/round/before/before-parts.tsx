import { clockTime } from "@core";
import { useState } from "react";
import { Form } from "react-router";

import { inHours } from "~/kit/days/day-time";
import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { Day } from "~/ui/day";
import { Disclosure } from "~/ui/disclosure";
import { MessageLine } from "~/ui/message-line";
import { PlainField } from "~/ui/plain-field";
import { Why } from "~/ui/why";

import type { AskedView, AskView, SiteBefore } from "./before.server";
import { bandInWords, savedBy, textOf } from "./message-text";

/** One customer: when somebody comes, what is asked, what was said, and the message. */
export function BeforeSite({
  site,
  person,
  on,
  open,
  answer,
}: {
  site: SiteBefore;
  person: string;
  on: string;
  open: boolean;
  answer: FormAnswer | undefined;
}) {
  return (
    <section aria-labelledby={site.id} className="panel p-4">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 id={site.id} className="text-lg wrap-anywhere">
          {site.name}
        </h2>
        <p>
          <strong className="figure text-lg">{clockTime(site.arrive)}</strong>{" "}
          <span className="text-ink-soft">{bandInWords(site)}, eight days in ten</span>
        </p>
      </div>
      <p className="text-sm text-ink-soft wrap-anywhere">
        {site.work.join(" · ")} · done by about <span className="figure">{clockTime(site.until)}</span>
      </p>
      {site.asked.length > 0 && (
        <ul className="mt-3 divide-y divide-line border-y border-line" aria-label={`Asked of ${site.name}`}>
          {site.asked.map((one) => (
            <Asked key={one.id} one={one} open={open} />
          ))}
        </ul>
      )}
      {site.messages.map((message) => (
        <div key={message.id} className="mt-3">
          <MessageLine message={message} />
        </div>
      ))}
      <Why
        summary="What these rest on"
        because={[
          "The hour: the day's plan. Its band: of 1,000 days worked with minutes that scatter as past services did, without the earliest and the latest tenth; rounded outwards to five minutes.",
          ...(site.asks.length > 0
            ? [
                `Minutes saved: the visit is packed as it is (${inHours(site.length)}) and as it is when that has been done; what other work fills of a wait is no saving. Of all choices of at most three, each counted as five minutes, those that are ticked save most${site.proven ? ", which is proven" : "; not proven, the best that was found"}.`,
                "A hot machine is asked for only where a measured temperature opens the work: what was done is seen on the spot.",
              ]
            : []),
        ]}
      />
      {open && <Tell site={site} person={person} on={on} answer={answer} />}
    </section>
  );
}

const ANSWERS = { yes: "They do it: planned so", no: "They cannot" };

function Asked({ one, open }: { one: AskedView; open: boolean }) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 py-2">
      <div className="min-w-0 flex-1 basis-64">
        <p className="wrap-anywhere">{one.words}</p>
        <p className="text-sm text-ink-soft wrap-anywhere">
          {one.answer === null
            ? "No answer yet: not counted on"
            : `${ANSWERS[one.answer]} (${one.answeredBy}${one.answeredAt ? ", " : ""}`}
          {one.answer !== null && one.answeredAt && <Day at={one.answeredAt} />}
          {one.answer !== null && ")"} · saves <span className="figure">{inHours(one.saves)}</span>
        </p>
      </div>
      {open && (
        <Form method="post" className="flex gap-2">
          <input type="hidden" name="intent" value="answer" />
          <input type="hidden" name="request" value={one.id} />
          <button
            className="btn"
            name="answer"
            value="yes"
            aria-pressed={one.answer === "yes"}
            aria-label={`Yes: ${one.words}`}
          >
            Yes
          </button>
          <button
            className="btn"
            name="answer"
            value="no"
            aria-pressed={one.answer === "no"}
            aria-label={`No: ${one.words}`}
          >
            No
          </button>
        </Form>
      )}
    </li>
  );
}

function Tell({
  site,
  person,
  on,
  answer,
}: {
  site: SiteBefore;
  person: string;
  on: string;
  answer: FormAnswer | undefined;
}) {
  const mine = answerTo(answer, "announce", ["site", site.id]);
  const known = site.contacts.filter((one) => one.email !== "");
  const [chosen, setChosen] = useState<readonly string[]>(site.asks.filter((one) => one.best).map((one) => one.id));
  const [name, setName] = useState(typed(mine, "name") ?? known[0]?.name ?? "");
  const [to, setTo] = useState(typed(mine, "to") ?? known[0]?.email ?? "");
  const [note, setNote] = useState(typed(mine, "note") ?? "");
  const asks = site.asks.filter((one) => chosen.includes(one.id));
  const text = textOf({
    ...site,
    site: site.name,
    toName: name.trim(),
    person,
    on,
    asks: asks.map((one) => one.words),
    saves: savedBy(site, asks),
    link: asks.length > 0 ? "(a link to answer by)" : null,
    note: note.trim(),
  });
  return (
    <Form method="post" className="mt-3 space-y-3">
      <input type="hidden" name="intent" value="announce" />
      <input type="hidden" name="site" value={site.id} />
      <Asks site={site} chosen={chosen} onChoose={setChosen} />
      <Disclosure
        title={site.messages.length > 0 ? "Tell them again" : "Tell them"}
        label={`Tell ${site.name}`}
        look="button"
        open={Boolean(mine.errors["to"] ?? mine.errors["name"] ?? mine.errors["note"])}
      >
        <div className="mt-3 grid gap-4 lg:grid-cols-2">
          <div className="min-w-0 space-y-3">
            {known.length > 1 && (
              <PlainField id={`who-${site.id}`} label="Who" answer={undefined}>
                <select
                  id={`who-${site.id}`}
                  className="field"
                  onChange={(event) => {
                    const one = known[Number(event.currentTarget.value)];
                    setName(one?.name ?? "");
                    setTo(one?.email ?? "");
                  }}
                >
                  {known.map((one, i) => (
                    <option key={`${one.name}${one.email}`} value={i}>
                      {one.name}
                      {one.role && `, ${one.role}`}
                    </option>
                  ))}
                </select>
              </PlainField>
            )}
            <PlainField
              id={`name-${site.id}`}
              label="Name"
              name="name"
              maxLength={120}
              answer={mine.errors["name"]}
              value={name}
              onChange={(event) => setName(event.currentTarget.value)}
            />
            <PlainField
              id={`to-${site.id}`}
              label="E-mail address"
              name="to"
              type="email"
              maxLength={160}
              answer={mine.errors["to"]}
              value={to}
              onChange={(event) => setTo(event.currentTarget.value)}
            />
            <PlainField id={`note-${site.id}`} label="To add" answer={mine.errors["note"]}>
              <textarea
                id={`note-${site.id}`}
                name="note"
                rows={2}
                maxLength={1000}
                className="field"
                value={note}
                onChange={(event) => setNote(event.currentTarget.value)}
              />
            </PlainField>
          </div>
          <div className="min-w-0">
            <h3 className="mb-1 font-semibold">The message</h3>
            <pre className="rounded bg-sunken p-3 font-sans text-sm whitespace-pre-wrap wrap-anywhere">{text}</pre>
            <button className="btn btn-main mt-3 w-full">Send it</button>
          </div>
        </div>
      </Disclosure>
    </Form>
  );
}

/** What could be asked for, with what it saves; the best are ticked. */
function Asks({
  site,
  chosen,
  onChoose,
}: {
  site: SiteBefore;
  chosen: readonly string[];
  onChoose: (chosen: readonly string[]) => void;
}) {
  if (site.asks.length === 0)
    return site.asked.length > 0 ? null : (
      <p className="text-sm text-ink-soft">Nothing that they could do before would shorten this visit.</p>
    );
  const toggle = (ask: AskView, on: boolean): void =>
    onChoose(on ? [...chosen, ask.id] : chosen.filter((id) => id !== ask.id));
  return (
    <fieldset>
      <legend className="font-semibold">
        {site.saved === 0 ? (
          "Would save little"
        ) : (
          <>
            Worth asking for: <span className="figure">{inHours(site.saved)}</span> of{" "}
            <span className="figure">{inHours(site.length)}</span> on site
          </>
        )}
      </legend>
      <ul>
        {site.asks.map((ask) => (
          <li key={ask.id}>
            <label className="flex min-h-11 items-center gap-3 py-1">
              <input
                type="checkbox"
                name="ask"
                value={ask.id}
                className="size-6 shrink-0"
                checked={chosen.includes(ask.id)}
                onChange={(event) => toggle(ask, event.currentTarget.checked)}
              />
              <span className="min-w-0 flex-1 wrap-anywhere">
                {ask.words}{" "}
                <span className="text-sm text-ink-soft">
                  (by itself <span className="figure">{inHours(ask.alone)}</span>)
                </span>
              </span>
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
