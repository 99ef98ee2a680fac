import { money } from "~/kit/forms/quantity";
import { Section } from "~/ui/section";
import { Why } from "~/ui/why";

import type { AgedPart } from "./ages.server";

const days = (n: number): string => `${Math.round(n).toLocaleString("en")} ${Math.round(n) === 1 ? "day" : "days"}`;

/** Parts that nothing measures: how old they are, how long their like lasts, and whether renewing them by plan pays. */
export function AgedParts({ parts }: { parts: readonly AgedPart[] }) {
  if (parts.length === 0) return null;
  return (
    <Section id="ages" title="By age alone" panel>
      <p className="text-sm text-ink-soft">Nothing is read off these; what is known is how long they have lasted.</p>
      <ul className="divide-y divide-line">
        {parts.map((part) => (
          <li key={part.item} className="py-3">
            <h3 className="text-base wrap-anywhere">{part.itemName}</h3>
            <p>
              {part.places.length > 3
                ? `${part.places.length} places, the oldest ${days(Math.max(...part.places.map((one) => one.days)))} in`
                : part.places.map((one) => `${one.slotName}: ${days(one.days)} in`).join("; ")}
              .
            </p>
            <p>{lifeWords(part)}</p>
            {part.life && <Why because={lifeBecause(part.life)} />}
          </li>
        ))}
      </ul>
    </Section>
  );
}

function lifeWords({ life, failures, others }: AgedPart): string {
  if (!life)
    return `Of ${failures + others} like it ${failures === 0 ? "none" : failures} ${failures > 1 ? "were" : "was"} worn or failed so far: too few to say how long it lasts.`;
  if (life.age === null) return "Run it till it fails: renewing it by plan never pays.";
  return `Renewing it by plan pays at about ${days(life.age)}.`;
}

function lifeBecause({
  fit,
  failures,
  suspensions,
  age,
  costRate,
  runToFailure,
}: NonNullable<AgedPart["life"]>): string[] {
  const n = (value: number): string => value.toPrecision(3);
  return [
    `${failures} pieces in this family were worn or failed, ${suspensions} were renewed by plan or are still in: counted as having lasted at least so long.`,
    `Two of three last no longer than ${days(fit.scale)} (${days(fit.scaleCi[0])} to ${days(fit.scaleCi[1])}, 95 %). Shape ${n(fit.shape)} (${n(fit.shapeCi[0])} to ${n(fit.shapeCi[1])}): ${fit.shape > 1 ? "the older, the likelier it fails" : "age makes it no likelier to fail"} (Weibull, by maximum likelihood).`,
    age === null
      ? `Till it fails it costs ${money(Math.round(runToFailure))} a day.`
      : `By plan at that age it costs ${money(Math.round(costRate))} a day, till it fails ${money(Math.round(runToFailure))}.`,
  ];
}
