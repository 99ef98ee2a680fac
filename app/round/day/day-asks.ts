import {
  type AskedJob,
  beforehandOf,
  type BenchPath,
  COOL_BEFOREHAND,
  type DayJob,
  type MachineFacts,
  type Procedure,
  type ProcedurePhases,
} from "@core";

/** Something that a customer could be asked to do on a machine before somebody comes. */
export interface DayAsk {
  /** By machine: what several of its duties gain by is one. */
  id: string;
  machineId: string;
  machineName: string;
  kind: "cool" | "do" | "free";
  /** `cool`, `free`, or procedure and step. */
  ask: string;
  /** Steps of the sheet that it does away with. */
  steps: string[];
  /** Minutes before the work by which it has to be done. */
  lead: number;
  /** The procedure's own words; null where there are words of ours. */
  text: string | null;
}

/** A duty with what could be asked for, and how it is worked when some of that has been done. */
export interface JobAsks {
  could: () => DayAsk[];
  as: (done: readonly DayAsk[]) => DayJob;
}

export interface SiteAsks {
  siteId: string;
  asks: DayAsk[];
  variants: AskedJob[];
}

const FREE = "free";
/** A duty with more to be asked for than this is unheard of; each doubles its ways of being worked. */
const MOST_PER_DUTY = 4;

interface Asked {
  machineId: string;
  machineName: string;
  procedureId: string;
  freeHours: string;
}

/** What could be asked for so that a duty takes less: what its sheet says, and that the machine is free when somebody comes. */
export function couldAsk(row: Asked, procedure: Procedure, facts: Pick<MachineFacts, "options">): DayAsk[] {
  const { machineId, machineName } = row;
  const of = (ask: string, rest: Pick<DayAsk, "kind" | "steps" | "lead" | "text">): DayAsk => ({
    id: `${machineId} ${ask}`,
    machineId,
    machineName,
    ask,
    ...rest,
  });
  const said = beforehandOf(procedure, facts)
    .slice(0, MOST_PER_DUTY - 1)
    .map(({ id, steps, lead, text }) =>
      id === COOL_BEFOREHAND
        ? of(id, { kind: "cool", steps, lead, text })
        : of(`${row.procedureId}/${id}`.slice(0, 160), { kind: "do", steps, lead, text }),
    );
  return row.freeHours === "" ? said : [...said, of(FREE, { kind: "free", steps: [], lead: 0, text: null })];
}

export const stepsOf = (asks: readonly DayAsk[]): Set<string> => new Set(asks.flatMap((one) => one.steps));

export const isKeptFree = (asks: readonly DayAsk[]): boolean => asks.some((one) => one.kind === "free");

/** The ways of a duty on the bench, where it has any, as a day's problem names them. */
export const withBench = (bench: readonly BenchPath[]): { bench?: BenchPath[] } =>
  bench.length > 0 ? { bench: bench.map(({ path, after, phases }) => ({ path, after, phases })) } : {};

/** A duty as it is worked when these have been done. */
export function asAsked(job: DayJob, { phases, bench }: ProcedurePhases, done: readonly DayAsk[]): DayJob {
  const { windows, bench: _planned, ...rest } = job;
  return {
    ...rest,
    phases,
    ...withBench(bench),
    ...(windows && !isKeptFree(done) ? { windows } : {}),
  };
}

/**
 * What could be asked for at a site, and how its duties are worked then.
 *
 * @param held puts on a duty what every duty of its machine holds
 */
export function asksAt(
  siteId: string,
  jobs: readonly (JobAsks & { job: DayJob })[],
  held: (job: DayJob, id: string) => DayJob,
): SiteAsks {
  const asks = new Map<string, DayAsk>();
  const all = jobs.map(({ could, as, job }) => ({ could: could(), as, job }));
  for (const one of all.flatMap((job) => job.could)) {
    const known = asks.get(one.id);
    // Of several duties the one that takes longest to get ready for.
    if (!known || one.lead > known.lead) asks.set(one.id, one);
  }
  return {
    siteId,
    asks: [...asks.values()],
    variants: all.flatMap(({ could, as, job }) =>
      some(could).map((done) => ({ asked: done.map((one) => one.id), job: held(as(done), job.id) })),
    ),
  };
}

/** Every choice of some of these but none. */
function some<Item>(items: readonly Item[]): Item[][] {
  return items.reduce<Item[][]>((all, item) => [...all, [item], ...all.map((one) => [...one, item])], []);
}
