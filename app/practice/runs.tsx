import { Link } from "react-router";

import { inHours } from "~/kit/days/day-time";
import { Day } from "~/ui/day";
import { familyName } from "~/ui/family-names";

import type { RunLine } from "./practice.sql";
import { outcomeWords } from "./practice-words";

/** Practice that was done, the latest first. */
export function Runs({ runs, withNames = false }: { runs: readonly RunLine[]; withNames?: boolean }) {
  return (
    <ul className="panel divide-y divide-line">
      {runs.map((run) => (
        <li key={run.id} className="p-3 wrap-anywhere">
          <Link to={runPath(run)}>{run.kind === "fault" ? `A fault on: ${familyName(run.family)}` : run.title}</Link>
          <span className="block text-sm text-ink-soft">
            {withNames && `${run.byName}, `}
            <Day at={run.startedAt} />, {outcomeWords(run)}
            {run.result && `, ${inHours(run.result.minutes)} against ${inHours(run.result.bestMinutes)}`}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** A sheet that is not handed in is gone on with where sheets are practised. */
const runPath = ({ id, kind, finishedAt, procedureId }: RunLine): string =>
  kind === "sheet" && finishedAt === null ? `/practice/${procedureId}?run=${id}` : `/machines/practice/${id}`;
