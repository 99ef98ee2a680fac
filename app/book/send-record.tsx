import { answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { Disclosure } from "~/ui/disclosure";
import { MessageLine } from "~/ui/message-line";

import type { Route } from "./+types/record.route";
import { SendForm } from "./send-form";

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
        <div className="mt-3">
          <SendForm
            whom="Name"
            known={known ?? { name: "", email: "" }}
            button={count > 1 ? `Send ${count} records` : "Send the record"}
            answer={answer}
          />
        </div>
      </Disclosure>
    </section>
  );
}
