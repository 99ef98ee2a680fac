import type { Procedure, RunEventBody, SheetStep, Step } from "@core";

import { ReasonDialog } from "~/sheet/reason-dialog";
import { useSheetFacts } from "~/sheet/sheet-facts";
import { useDayWords } from "~/ui/day";
import { Why } from "~/ui/why";
import { ADVICE, figure, moneyBecause, moneyWords, nextWords, restsOn, whenWords } from "~/wear/wear-words";

import { at } from "./step-props";
import { renewsLater, wearOfStep, worstSaid } from "./wear-of-step";

/** What a part's value means, as soon as it is read: when it passes its limit, and whether the next visit is early enough. */
export function WearNotice({
  one,
  procedure,
  log,
  leave,
}: {
  one: SheetStep & { definition: Extract<Step, { kind: "measure" }> };
  procedure: Procedure;
  log: (...bodies: RunEventBody[]) => void;
  leave: (() => void) | undefined;
}) {
  const { wear, today } = useSheetFacts();
  const say = useDayWords();
  const all = wear ? wearOfStep(one, wear) : [];
  const worst = worstSaid(all);
  if (!worst) return null;
  const { known, said } = worst;
  const told = { ...said, unit: known.unit, limitAt: known.limitAt, worse: known.worse, per: known.per };
  const decided = one.state?.decided ?? null;
  const costs = moneyWords(said);
  const canRenew = renewsLater(one.definition, procedure.steps);
  const decide = (choice: "now" | "next", reason?: string): void => {
    const chance = said.nextChance;
    log({
      type: "wear-decided",
      ...at(one),
      choice,
      ...(chance === null ? {} : { chance }),
      ...(reason ? { reason } : {}),
    });
    leave?.();
  };
  const against = said.advice === "now" ? "next" : said.advice === "next" ? "now" : null;
  const button = (choice: "now" | "next", label: string, main: boolean) =>
    choice === against ? (
      <ReasonDialog
        key={choice}
        trigger={label}
        title={label}
        label="Why"
        hint="It stands on the record, beside what was told."
        confirm={label}
        onConfirm={(reason) => decide(choice, reason)}
      />
    ) : (
      <button
        key={choice}
        type="button"
        className={main ? "btn btn-main btn-big" : "btn btn-big"}
        onClick={() => decide(choice)}
      >
        {label}
      </button>
    );
  return (
    <section role="status" aria-label="Wear" className="mb-4 border-2 border-ink p-3">
      <p>
        {all.length > 1 && `${known.slotName}: `}
        <strong className="figure">{figure(said.lastValue, known.unit)}</strong> now. {whenWords(told, say, today)}{" "}
        {nextWords(said, say)}
      </p>
      {said.advice !== null && (
        <p className="mt-1">
          <strong className="text-lg">{ADVICE[said.advice]}.</strong>
          {costs && <span className="text-ink-soft"> {costs}.</span>}
        </p>
      )}
      <Why because={[...restsOn(told, known.per.replaceAll("-", " ")), ...moneyBecause(said)]} />
      {decided && (
        <p className="mt-2 font-semibold">
          {decided.choice === "now" ? "It is renewed on this sheet." : "Left until the next visit."}
          {decided.reason && ` ${decided.reason}`}
        </p>
      )}
      {canRenew && said.advice !== null && decided?.choice !== "now" && (
        <div className="mt-3 flex flex-wrap gap-2">
          {button("now", "Renew it now", said.advice === "now")}
          {!decided && button("next", "Leave it until the next visit", said.advice !== "now")}
        </div>
      )}
    </section>
  );
}
