import { drawBundle } from "~/book/bundles/draw-bundle.server";
import type { AsideWork } from "~/kit/server/aside.server";
import { answerAside, type AsideAnswer } from "~/kit/server/aside-answer";
import { readTable } from "~/kit/server/csv-table.server";
import { searches } from "~/kit/server/searches";
import { parseRegister } from "~/machines/register/machine-csv.server";
import { formFaults, parseProcedure } from "~/procedures/procedure-schema.server";

const WORK: Record<AsideWork, unknown> = {
  ...searches,
  readTable,
  parseRegister,
  parseProcedure,
  formFaults,
  drawBundle,
};

/** What a worker thread is asked: bundled beside the server by the build. */
export default function run({
  name,
  args,
  asText,
}: {
  name: AsideWork;
  args: unknown[];
  asText: boolean;
}): Promise<AsideAnswer<unknown>> {
  return answerAside(() => (WORK[name] as (...all: unknown[]) => unknown)(...args), asText);
}
