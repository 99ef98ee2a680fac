import { readFileSync } from "node:fs";
import { join } from "node:path";

import { foldRun, missingSteps, must, type Procedure } from "@core";

import { parseLogEntry } from "~/sheet/log/log-entry-schema";

import { EMPTY_LINE, paperEntries, type PaperLine } from "./paper-entry";

const read = (id: string) =>
  JSON.parse(readFileSync(join(process.cwd(), "procedures", `${id}.json`), "utf8")) as Procedure;
const RUN = "0190a000-0000-7000-8000-000000000001";
const work = {
  sheetId: RUN,
  by: "ada",
  device: "paper",
  fromMs: Date.UTC(2026, 5, 10, 8),
  toMs: Date.UTC(2026, 5, 10, 9, 30),
};
const line = (set: Partial<PaperLine>): PaperLine => ({ ...EMPTY_LINE, ...set });

/** Everything written as it should be. */
function filled(procedure: Procedure): Record<string, PaperLine> {
  return Object.fromEntries(
    procedure.steps.map((step) => [
      step.id,
      line(
        step.kind === "measure"
          ? {
              values: (step.points ?? Array.from({ length: step.trials ?? 1 })).map(
                () =>
                  step.target ?? ((step.limits?.min ?? 0) + (step.limits?.max ?? (step.limits?.min ?? 1) * 1.5)) / 2,
              ),
            }
          : step.kind === "wait"
            ? { minutes: step.minMinutes + 1 }
            : step.kind === "reset"
              ? { values: [step.expect] }
              : step.kind === "choose"
                ? { mark: must(step.schools[0]).id }
                : step.kind === "decide"
                  ? { mark: must(step.branches[0]).id }
                  : { mark: "ok", ...(step.kind === "safety" && step.coolDown ? { values: [30] } : {}) },
      ),
    ]),
  );
}

it.each([
  "flake-ice-maker-clean-sanitise",
  "conveyor-toaster-monthly",
  "icp-spectrometer-carbon",
  "slide-stainer-chambers",
  "wide-format-printer-periodic",
])("%s filled in on paper leaves nothing open, in valid events", (id) => {
  const procedure = read(id);
  const entries = paperEntries(procedure, filled(procedure), work);
  for (const entry of entries) expect(parseLogEntry(entry).fault).toBeUndefined();
  const state = foldRun(procedure, entries);
  expect(missingSteps(procedure, state, { options: procedure.options.map((one) => one.id) })).toEqual([]);
  expect(must(state.notes.at(-1)).text).toMatch(/paper/);
});

it("keeps the length of waits, within the time worked when they fit", () => {
  const procedure = read("slide-stainer-chambers");
  const entries = paperEntries(procedure, { ...filled(procedure), "chlorine-soak": line({ minutes: 23 }) }, work);
  expect(must(foldRun(procedure, entries).steps["chlorine-soak"]).timer).toMatchObject({
    minutes: 23,
    verdict: "long",
  });
  expect(Date.parse(must(entries.at(-1)).at)).toBeLessThanOrEqual(work.toMs + 1000);
  expect(entries.map((one) => one.at)).toEqual([...entries.map((one) => one.at)].sort());
});

it("leaves empty lines open, keeps reasons, and logs a finding for what is not so", () => {
  const procedure = read("ride-on-sweeper-daily");
  const entries = paperEntries(
    procedure,
    {
      "make-safe": line({ mark: "ok" }),
      hours: line({ mark: "skip", remark: "display dark" }),
      "safety-functions": line({ mark: "no", remark: "horn silent" }),
    },
    work,
  );
  const state = foldRun(procedure, entries);
  expect(state.steps.hours).toMatchObject({ status: "skipped", reason: "display dark" });
  expect(state.findings).toMatchObject([{ text: "horn silent", severity: "unsafe" }]);
  expect(missingSteps(procedure, state, { options: [] }).map((one) => one.step)).toContain("main-bristle");
});

it("makes nothing of an empty sheet", () => expect(paperEntries(read("own-duty"), {}, work)).toEqual([]));
