import { Link } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import { againSchema } from "~/kit/messages/again-schema";
import { sendAgain } from "~/kit/messages/messages.server";
import { form, formAction } from "~/kit/server/form-action.server";
import { served } from "~/kit/server/served.server";
import { MessageLine } from "~/ui/message-line";
import { Notice } from "~/ui/notice";
import { PageHead } from "~/ui/page-head";
import { Section } from "~/ui/section";
import { titleOf } from "~/ui/title-of";

import { sendSchema } from "../book-schemas";
import { SendForm } from "../send-form";
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
      to: view.packet.to ?? "",
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
    again: form(againSchema, async ({ message }, _, now) => {
      await sendAgain(message, { sheetId: args.params.sheetId, kind: "packet" }, now);
      return "It is tried again now.";
    }),
  });
}

/** What goes to who goes on with a fault: everything that is known, made by itself. */
export default function PacketPage({ loaderData, actionData }: Route.ComponentProps) {
  const { sheet, machine, to, facts, lists, photos, messages } = loaderData;
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
      {actionData?.said && <Notice>{actionData.said}</Notice>}
      {answer.message && <Notice tone="problem">{answer.message}</Notice>}
      {messages.map((message) => (
        <MessageLine key={message.id} message={message} />
      ))}
      <div className="panel no-print p-4">
        <SendForm whom="Whom" known={{ name: to, email: "" }} button="Send the packet" answer={actionData} />
      </div>
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
