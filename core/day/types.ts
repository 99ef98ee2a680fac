import type { Timetable } from "../round/types";
import type { BenchPath } from "../visit/bench-jobs";
import type { FixedPhase, VisitJob, VisitSchedule } from "../visit/types";

/** One duty on one machine as part of a day. Times are minutes of the day. */
export interface DayJob extends Pick<VisitJob, "id" | "phases"> {
  /** What goes on at the bench beside it; jobs of their own in the schedule, named by `dutyOfJob`. */
  bench?: BenchPath[];
  /** The machine is free only then. */
  windows?: [number, number][];
  /** Everything on it is over by then: 15 minutes before serving, for example. */
  readyBy?: number;
  /** What it is worth to do it today; only compared with others. */
  value?: number;
  /** Stays on this day whatever it costs. */
  pinned?: boolean;
}

export interface DaySite {
  id: string;
  /** When people are let in; at any time when absent. */
  access?: [number, number][];
  /** Minutes for arriving (check-in, meters, a look around) and for leaving (tidying up, signature). */
  arriving: number;
  leaving: number;
  resources: { id: string; capacity: number }[];
  jobs: DayJob[];
  /** Work begun there before now; starts in minutes of the day. */
  fixed?: FixedPhase[];
}

/** A break that everybody of the round takes together. */
export interface DayBreak {
  minutes: number;
  /** It begins within these minutes of the day; a day that is over by `by` needs none. */
  from: number;
  by: number;
}

export interface DayProblem {
  /** Minute of the day at which the round begins, or goes on. */
  startAt: number;
  /** Minute by which people want to be back. */
  endBy: number;
  technicians: number;
  sites: DaySite[];
  /** Minutes from row to column, (sites + 1)². Row 0: from where the round begins. Column 0: to where it ends. */
  travel: number[][];
  timetables?: Timetable[];
  /** The site one stands at: first, without a way and without arriving. */
  first?: string;
  /** An order chosen by hand; free when absent. */
  order?: string[];
  /** Still to be taken, in their order. */
  breaks?: DayBreak[];
}

export interface DayStop {
  site: string;
  arrive: number;
  /** Work begins: let in, checked in. */
  begin: number;
  leave: number;
  /** Minutes of the day. */
  schedule: VisitSchedule;
  /** The same work one machine after the other, minutes. */
  oneByOne: number;
  /** Minutes after the last closing (or a machine's hours) at which the work is over. */
  late: number;
}

/** A break of a planned day, minutes of the day. */
export interface PlannedBreak {
  /** Place in the problem's `breaks`. */
  index: number;
  /** Taken during the visit there; null: before one sets off to the next place, or back. */
  site: string | null;
  from: number;
  to: number;
}

export interface DayPlan {
  stops: DayStop[];
  /** Absent in plans without any. */
  breaks?: PlannedBreak[];
  travelMinutes: number;
  lateMinutes: number;
  endAt: number;
  /** Minutes after `endBy`. */
  overtime: number;
  /** Everything that does not hold, in sentences with ids. */
  conflicts: string[];
}
