import { Form } from "react-router";

import { Day } from "./day";
import { Disclosure } from "./disclosure";

export interface MessageShown {
  id: string;
  toName: string;
  toAddress: string;
  state: "waiting" | "sent" | "failed";
  fault: string;
  madeAt: string | Date;
  sentAt: string | Date | null;
  body: string;
}

const STATES = {
  sent: ["✓", "Sent to"],
  failed: ["!", "Not sent to"],
  waiting: ["…", "Waits to be sent to"],
} as const;

/** A message with what became of it; one that did not go out can be tried again (`intent` again, `message`). */
export function MessageLine({ message }: { message: MessageShown }) {
  const { state, fault } = message;
  const [mark, says] = STATES[state];
  const who = message.toName === "" ? message.toAddress : message.toName;
  return (
    <div className="text-sm">
      <p className="wrap-anywhere">
        <span aria-hidden="true">{mark} </span>
        {says} {who}, <Day at={message.sentAt ?? message.madeAt} />
        {fault !== "" && `. ${fault}`}
      </p>
      {state !== "sent" && fault !== "" && (
        <Form method="post">
          <input type="hidden" name="message" value={message.id} />
          <button className="btn mt-1" name="intent" value="again">
            Try again
          </button>
        </Form>
      )}
      <Disclosure title="What it says" label={`What the message to ${who} says`}>
        <pre className="mt-1 rounded bg-sunken p-3 font-sans whitespace-pre-wrap wrap-anywhere">{message.body}</pre>
      </Disclosure>
    </div>
  );
}
