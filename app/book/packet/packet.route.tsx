import { Form, Link } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { MessageLine } from "~/ui/message-line";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { PlainField } from "~/ui/plain-field";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import { sendSchema } from "../book-schemas";
import type { Route } from "./+types/packet.route";
import { packetFacts, sendPacket, servicePacket } from "./packet.server";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: titleOf(loaderData, (data) => `Service packet of ${data.machine}`, "Service packet") },
];

export function loader({ params }: Route.LoaderArgs) {
  return served(async () => {
    const view = await servicePacket(params.sheetId, new Date());
    const { sheet, machine } = view.record;
    return {
      sheet: { id: sheet.id, isOpen: sheet.status === "open" },
      machine: machine.name,
      facts: packetFacts(view.record, view.packet),
      lists: view.packet.lists,
      photos: view.photos,
      messages: view.messages,
    };
  });
}

export function action(args: Route.ActionArgs) {
  return formAction(args, {
    send: form(sendSchema, async ({ name, to }, who, now) => {
      const whom = await sendPacket(who, args.params.sheetId, { name, address: to }, now);
      return `The packet is on its way to ${whom}.`;
    }),
  });
}

/** What goes to who goes on with a fault: everything that is known, made by itself. */
export default function PacketPage({ loaderData, actionData }: Route.ComponentProps) {
  const { sheet, machine, facts, lists, photos, messages } = loaderData;
  const answer = answerTo(actionData, "send");
  return (
    <div className="mx-auto max-w-3xl space-y-5">
      <PageHead
        back={
          <Link to={sheet.isOpen ? `/sheet/${sheet.id}` : `/book/records/${sheet.id}`}>
            {sheet.isOpen ? "Back to the sheet" : "The record"}
          </Link>
        }
        title="Service packet"
        subtitle={machine}
      >
        <a href={`/sheet/${sheet.id}/packet.pdf`} target="_blank" rel="noreferrer" className="btn">
          PDF
        </a>
      </PageHead>
      {answer.said && <Notice>{answer.said}</Notice>}
      {answer.message && <Notice tone="problem">{answer.message}</Notice>}
      {messages.map((message) => (
        <MessageLine key={message.id} message={message} />
      ))}
      <Form method="post" className="panel no-print grid gap-3 p-4 sm:grid-cols-[1fr_1fr_auto] sm:items-end">
        <input type="hidden" name="intent" value="send" />
        <PlainField
          id="packet-name"
          label="Whom"
          name="name"
          maxLength={120}
          answer={answer.errors["name"]}
          defaultValue={typed(answer, "name") ?? facts.find(([name]) => name === "For")?.[1] ?? ""}
        />
        <PlainField
          id="packet-to"
          label="E-mail address"
          name="to"
          type="email"
          maxLength={160}
          answer={answer.errors["to"]}
          defaultValue={typed(answer, "to") ?? ""}
        />
        <button className="btn btn-main">Send the packet</button>
      </Form>
      <dl className="panel grid gap-x-4 gap-y-1 p-4 sm:grid-cols-[12rem_1fr]">
        {facts
          .filter(([, value]) => value !== "")
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="font-semibold">{name}</dt>
              <dd className="mb-1 wrap-anywhere">{value}</dd>
            </div>
          ))}
      </dl>
      {lists
        .filter(([, lines]) => lines.length > 0)
        .map(([title, lines]) => (
          <Section key={title} id={title.replaceAll(/\W+/g, "-").toLowerCase()} title={title} panel>
            <ul className="list-disc pl-5">
              {lines.map((line, i) => (
                <li key={i} className="wrap-anywhere">
                  {line}
                </li>
              ))}
            </ul>
          </Section>
        ))}
      {photos.length > 0 && (
        <ul className="grid gap-3 sm:grid-cols-2">
          {photos.map((photo, i) => (
            <li key={photo}>
              <img src={`/photos/${photo}`} alt={`What was seen, ${i + 1}`} className="w-full border border-line" />
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
