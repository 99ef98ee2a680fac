import { Form } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { Disclosure } from "~/ui/disclosure";
import { MessageLine } from "~/ui/message-line";
import { PlainField } from "~/ui/plain-field";

import type { Route } from "./+types/record.route";

/** The record to the customer, and who has it. */
export function SendRecord({
  post,
  count,
  answer,
}: {
  post: Route.ComponentProps["loaderData"]["post"];
  /** Records that go with it. */
  count: number;
  answer: FormAnswer | undefined;
}) {
  const mine = answerTo(answer, "send");
  const [known] = post.contacts;
  return (
    <section aria-label="To the customer" className="panel no-print mt-4 space-y-2 p-4">
      {post.messages.map((message) => (
        <MessageLine key={message.id} message={message} />
      ))}
      <Disclosure
        title={post.messages.length > 0 ? "Send it to somebody else" : "Send it to the customer"}
        look="button"
        open={mine.refused}
      >
        <Form method="post" className="mt-3 grid gap-3 sm:grid-cols-[1fr_1fr_auto] sm:items-end">
          <input type="hidden" name="intent" value="send" />
          <PlainField
            id="send-name"
            label="Name"
            name="name"
            maxLength={120}
            answer={mine.errors["name"]}
            defaultValue={typed(mine, "name") ?? known?.name ?? ""}
          />
          <PlainField
            id="send-to"
            label="E-mail address"
            name="to"
            type="email"
            maxLength={160}
            answer={mine.errors["to"]}
            defaultValue={typed(mine, "to") ?? known?.email ?? ""}
          />
          <button className="btn btn-main">{count > 1 ? `Send ${count} records` : "Send the record"}</button>
        </Form>
      </Disclosure>
    </section>
  );
}
