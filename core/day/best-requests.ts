import { requireList, requireRecord } from "../inputs";
import { horizonOf } from "../visit/model";
import { pack } from "../visit/pack-visit";
import type { PackOptions } from "../visit/types";
import type { DayJob, DaySite } from "./types";
import { lateness, visitAt } from "./visit-at";

/** A duty as it is worked when the customer has done some things before; `asked` are their ids. */
export interface AskedJob {
  asked: string[];
  job: DayJob;
}

/** A visit to a site, with what its customer could do before. */
export interface AskedVisit {
  site: DaySite;
  technicians: number;
  /** Minute of the day at which the work begins. */
  begin: number;
  /** Ids of what could be asked, in the order that decides between equals. */
  requests: string[];
  /** Duties that some of it changes: for each set of what concerns a duty how it is worked then. */
  variants: AskedJob[];
}

export interface BestRequests {
  /** Minutes of the visit when nothing is asked. */
  length: number;
  /** What is worth asking for, the most worth by itself first. */
  asked: { id: string; alone: number }[];
  /** Minutes that all of it together saves. */
  saved: number;
  /** What else could be asked for, and what that saves by itself. */
  others: { id: string; alone: number }[];
  /** No other choice saves more: every length that was compared is proven. */
  proven: boolean;
}

export interface RequestOptions extends Pick<PackOptions, "nodeLimit" | "seed"> {
  /** So much is asked for at most; 3. */
  most?: number;
  /** Minutes that each request has to save: nobody is asked for less; 5. */
  least?: number;
}

/** Everything up to so many is tried in every choice; of more, those that save most by themselves. */
const MOST_TRIED = 10;
/** Search nodes for a visit that is compared. */
const NODES = 1200;

/**
 * What to ask a customer for before a visit: of all choices of at most three the one that shortens it most, each request
 * counted as `least` minutes. Every choice is packed, with and without.
 *
 * Asking for more never lengthens a visit: what is done beforehand need only be looked at.
 *
 * @throws CoreError for malformed arguments
 */
export function bestRequests(visit: AskedVisit, options: RequestOptions = {}): BestRequests {
  const { requests, variants } = requireRecord(visit, "visit");
  requireList(requests, "visit.requests");
  requireList(variants, "visit.variants");
  const { most = 3, least = 5 } = options;
  const lengths = new Lengths(visit, options);
  const length = lengths.of([]);
  const alone = new Map(requests.map((id) => [id, Math.max(0, length - lengths.of([id]))]));
  const byWorth = [...requests].sort((a, b) => (alone.get(b) ?? 0) - (alone.get(a) ?? 0));
  const tried = requests.filter((id) => byWorth.slice(0, MOST_TRIED).includes(id));
  const whole = length - lengths.of(requests);
  let best: { ids: string[]; worth: number; saved: number } = { ids: [], worth: 0, saved: 0 };
  for (let count = 1; count <= Math.min(most, tried.length); count++) {
    // No choice saves more than all of it together.
    if (whole - least * count <= best.worth) break;
    for (const ids of choices(tried, count)) {
      const saved = length - lengths.of(ids);
      if (saved - least * count > best.worth) best = { ids, worth: saved - least * count, saved };
    }
  }
  const named = (id: string): { id: string; alone: number } => ({ id, alone: alone.get(id) ?? 0 });
  return {
    length,
    asked: byWorth.filter((id) => best.ids.includes(id)).map(named),
    saved: best.saved,
    others: byWorth.filter((id) => !best.ids.includes(id)).map(named),
    proven: lengths.proven && tried.length === requests.length,
  };
}

/** Lengths of the visit by what has been asked for; the late minutes of one that cannot be in time count on top. */
class Lengths {
  proven = true;
  readonly #visit: AskedVisit;
  readonly #options: RequestOptions;
  readonly #known: { asked: ReadonlySet<string>; length: number }[] = [];

  constructor(visit: AskedVisit, options: RequestOptions) {
    this.#visit = visit;
    this.#options = options;
  }

  of(ids: readonly string[]): number {
    const asked = new Set(ids);
    const known = this.#known.find((one) => one.asked.size === asked.size && ids.every((id) => one.asked.has(id)));
    if (known) return known.length;
    // What is packed for fewer requests can be kept to with more: a search that was cut short finds no worse.
    const fewer = this.#known.filter((one) => [...one.asked].every((id) => asked.has(id))).map((one) => one.length);
    const length = Math.min(...fewer, this.#packed(asked));
    this.#known.push({ asked, length });
    return length;
  }

  #packed(asked: ReadonlySet<string>): number {
    const { technicians, begin } = this.#visit;
    const site = { ...this.#visit.site, jobs: this.#visit.site.jobs.map((job) => this.#jobWith(job, asked)) };
    const problem = { technicians };
    for (const hours of [true, false]) {
      const visit = visitAt(problem, site, begin, hours);
      // A visit without a bound of its own is over some time.
      const schedule = pack(
        visit,
        { nodeLimit: this.#options.nodeLimit ?? NODES, seed: this.#options.seed ?? 1 },
        () => [],
      );
      if (schedule.status === "optimal" || schedule.status === "feasible") {
        this.proven &&= schedule.status === "optimal" && hours;
        return schedule.makespan + (hours ? 0 : lateness(site, begin, schedule));
      }
    }
    this.proven = false;
    return horizonOf(visitAt(problem, site, begin, false));
  }

  #jobWith(job: DayJob, asked: ReadonlySet<string>): DayJob {
    const fits = this.#visit.variants.filter((one) => one.job.id === job.id && one.asked.every((id) => asked.has(id)));
    return fits.sort((a, b) => b.asked.length - a.asked.length)[0]?.job ?? job;
  }
}

/** All choices of so many, in the order of the list. */
function choices(ids: readonly string[], count: number): string[][] {
  if (count === 0) return [[]];
  return ids.flatMap((id, i) => choices(ids.slice(i + 1), count - 1).map((rest) => [id, ...rest]));
}
