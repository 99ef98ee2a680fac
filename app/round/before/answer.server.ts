import { getDb, type LinkRow } from "@db";

import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";

import { answered } from "./before.server";

export interface CustomerAnswerView {
  site: string;
  on: string;
  person: string;
  /** The day has come: what was said stays as it is. */
  over: boolean;
  asked: { id: string; words: string; answer: "yes" | "no" | null }[];
}

/** What a customer's link shows: what this message asked them for, and what was said, nothing else. */
export async function customerAnswers(
  { subjectId }: Pick<LinkRow, "subjectId">,
  now: Date,
): Promise<CustomerAnswerView> {
  const { models } = getDb();
  const message = await models.Message.findByPk(subjectId, { attributes: ["siteId", "onDay", "madeBy"], raw: true });
  const on = message?.onDay;
  if (!message || !on) throw new Refusal(404, "no-such-message", "This message is not here any more.");
  const [site, person, asked] = await Promise.all([
    models.Site.findByPk(message.siteId ?? "", { attributes: ["name"], raw: true }),
    models.Person.findByPk(message.madeBy ?? "", { attributes: ["name"], raw: true }),
    models.CustomerRequest.findAll({
      attributes: ["id", "words", "answer"],
      where: { messageId: subjectId },
      order: [
        ["byMinute", "ASC"],
        ["id", "ASC"],
      ],
      raw: true,
    }),
  ]);
  return {
    site: site?.name ?? "",
    on,
    person: person?.name ?? "",
    over: on < (await firmDay(now)).on,
    asked,
  };
}

/** Takes what a customer says. */
export async function takeAnswers(
  { subjectId }: Pick<LinkRow, "subjectId">,
  said: { name: string; answers: readonly { id: string; said?: "yes" | "no" | undefined }[] },
  now: Date,
): Promise<void> {
  const answers = said.answers.flatMap(({ id, said: answer }) => (answer ? [{ id, said: answer }] : []));
  if (answers.length === 0) throw new Refusal(422, "answers", "Say yes or no to at least one.");
  if ((await customerAnswers({ subjectId }, now)).over)
    throw new Refusal(409, "over", "That day is over. Call your service firm if something is to be changed.");
  await answered(answers, { by: said.name, actor: null }, { messageId: subjectId }, now);
}
