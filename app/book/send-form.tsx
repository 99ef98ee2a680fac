import { Form } from "react-router";

import { answerTo, typed } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { PlainField } from "~/ui/plain-field";

/** To whom something goes by message: name and address. */
export function SendForm({
  whom,
  known,
  button,
  answer,
}: {
  /** What the name is called. */
  whom: string;
  /** Filled in to begin with. */
  known: { name: string; email: string };
  button: string;
  answer: FormAnswer | undefined;
}) {
  const mine = answerTo(answer, "send");
  return (
    <Form method="post" className="grid gap-3 sm:grid-cols-[1fr_1fr_auto] sm:items-end">
      <input type="hidden" name="intent" value="send" />
      <PlainField
        id="send-name"
        label={whom}
        name="name"
        maxLength={120}
        answer={mine.errors["name"]}
        defaultValue={typed(mine, "name") ?? known.name}
      />
      <PlainField
        id="send-to"
        label="E-mail address"
        name="to"
        type="email"
        maxLength={160}
        answer={mine.errors["to"]}
        defaultValue={typed(mine, "to") ?? known.email}
      />
      <button className="btn btn-main">{button}</button>
    </Form>
  );
}
