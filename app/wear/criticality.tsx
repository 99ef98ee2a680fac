import type { Criticality as Level } from "@db";
import { Form } from "react-router";

import { answerTo } from "~/kit/forms/answer-to";
import type { FormAnswer } from "~/kit/forms/form-answer";
import { PlainSelect } from "~/ui/plain-field";
import { Section } from "~/ui/section";

const LEVELS: readonly { id: Level; name: string }[] = [
  { id: "low", name: "Little: it can wait" },
  { id: "usual", name: "As usual" },
  { id: "high", name: "Much: work stands still, or somebody is put at risk" },
];

/** How much it matters when a part of the machine fails: it decides what a failure is held to cost. */
export function Criticality({ now, answer }: { now: Level; answer: FormAnswer | undefined }) {
  return (
    <Section id="matters" title="When a part of it fails" panel>
      <Form method="post" className="flex flex-wrap items-end gap-3">
        <input type="hidden" name="intent" value="criticality" />
        <PlainSelect
          id="criticality"
          name="criticality"
          label="How much it matters"
          options={LEVELS}
          defaultValue={now}
          answer={answerTo(answer, "criticality").errors["criticality"]}
        />
        <button type="submit" className="btn">
          Keep
        </button>
      </Form>
    </Section>
  );
}
