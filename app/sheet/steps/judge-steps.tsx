import { findStepOf } from "@core";
import { useState } from "react";

import { Actions } from "./actions";
import { ProveFunctions } from "./prove-functions";
import { at, type StepCardProps } from "./step-props";

export function ProveStep(props: StepCardProps<"prove">) {
  return props.one.definition.functions ? <ProveFunctions {...props} /> : <ProveAtOnce {...props} />;
}

function ProveAtOnce({ procedure, one, open, log }: StepCardProps<"prove">) {
  const [failing, setFailing] = useState(false);
  const [text, setText] = useState("");
  // Of a fault the search goes on from here.
  const searched = findStepOf(procedure) !== null;
  return (
    <>
      <p className="mb-5 border-l-4 border-tan-fill pl-3 text-lg">
        <strong>Expected:</strong> {one.definition.expect}
      </p>
      {failing && (
        <div className="mb-4">
          <label htmlFor="failing" className="mb-1 block font-semibold">
            What is not as expected?
          </label>
          <textarea
            id="failing"
            className="field"
            rows={3}
            value={text}
            onChange={(event) => setText(event.target.value)}
            maxLength={4000}
          />
          <p className="text-sm text-ink-soft">
            It is logged as a finding, and the proof stays open: put it right and prove it again.
          </p>
        </div>
      )}
      {open && (
        <Actions>
          {failing ? (
            <>
              <button
                type="button"
                className="btn btn-main btn-big"
                aria-disabled={text.trim() === ""}
                onClick={() => {
                  if (text.trim() === "") return;
                  log({ type: "finding", ...at(one), text: text.trim(), severity: "major" });
                  setText("");
                  setFailing(false);
                }}
              >
                Log the finding
              </button>
              <button type="button" className="btn btn-big" onClick={() => setFailing(false)}>
                Back
              </button>
            </>
          ) : (
            <>
              <button
                type="button"
                className="btn btn-main btn-big"
                onClick={() => log({ type: "step-done", ...at(one), answer: "ok" })}
              >
                As expected
              </button>
              <button
                type="button"
                className="btn btn-big"
                onClick={() => (searched ? log({ type: "step-done", ...at(one), answer: "not-ok" }) : setFailing(true))}
              >
                {searched ? "Not cured" : "Not as expected"}
              </button>
            </>
          )}
        </Actions>
      )}
    </>
  );
}

export function InspectStep({ one, open, log }: StepCardProps<"inspect">) {
  const { asItShouldBe, ifNot, finding } = one.definition;
  const [telling, setTelling] = useState(false);
  const [text, setText] = useState("");
  const notOk = (): void => {
    if (finding === undefined) log({ type: "step-done", ...at(one), answer: "not-ok" });
    else setTelling(true);
  };
  return (
    <>
      <p className="text-lg">
        <strong>As it should be:</strong> {asItShouldBe}
      </p>
      <p className="mt-2 mb-5 border-l-4 border-line pl-3">
        <strong>If not:</strong> {ifNot}
      </p>
      {telling && finding !== undefined && (
        <div className="mb-4">
          <label htmlFor="inspect-finding" className="mb-1 block font-semibold">
            What is wrong?
          </label>
          <textarea
            id="inspect-finding"
            className="field"
            rows={2}
            maxLength={4000}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <p className="text-sm font-semibold">
            {finding === "unsafe"
              ? "! It takes the machine out of service until a lead clears it."
              : `It is logged as a ${finding} finding.`}
          </p>
        </div>
      )}
      {open && (
        <Actions>
          {telling && finding !== undefined ? (
            <>
              <button
                type="button"
                className="btn btn-main btn-big"
                aria-disabled={text.trim() === ""}
                onClick={() => {
                  if (text.trim() === "") return;
                  log(
                    { type: "step-done", ...at(one), answer: "not-ok" },
                    { type: "finding", ...at(one), text: text.trim(), severity: finding },
                  );
                }}
              >
                {finding === "unsafe" ? "Out of service" : "Log the finding"}
              </button>
              <button type="button" className="btn btn-big" onClick={() => setTelling(false)}>
                Back
              </button>
            </>
          ) : (
            <>
              <button
                type="button"
                className="btn btn-main btn-big"
                onClick={() => log({ type: "step-done", ...at(one), answer: "ok" })}
              >
                As it should be
              </button>
              <button type="button" className="btn btn-big" onClick={notOk}>
                Not so
              </button>
            </>
          )}
        </Actions>
      )}
    </>
  );
}

export function RepeatStep({ one, open, log }: StepCardProps<"repeat">) {
  const { title, question, clean, again, maxRounds } = one.definition;
  const last = maxRounds !== undefined && one.round >= maxRounds;
  const finding = { text: `${title}: not clean after ${maxRounds} passes.`, severity: "major" as const };
  const notClean = (): void => {
    log(
      { type: "step-done", ...at(one), answer: "again" },
      ...(last ? [{ type: "finding" as const, ...at(one), ...finding }] : []),
    );
  };
  return (
    <>
      <p className="mb-4 text-xl font-semibold">{question}</p>
      {last && (
        <p className="mb-4 border-2 border-ink p-3 font-semibold">
          ! Pass {one.round} is the last. Not clean after it is a finding: it is logged, and the work goes on.
        </p>
      )}
      {open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            onClick={() => log({ type: "step-done", ...at(one), answer: "clean" })}
          >
            {clean}
          </button>
          <button type="button" className="btn btn-big" onClick={notClean}>
            {last ? "Not clean: log it and go on" : again}
          </button>
        </Actions>
      )}
    </>
  );
}
