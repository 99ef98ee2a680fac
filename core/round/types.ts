export interface RoundStop {
  id: string;
  /** Minutes on site. */
  minutes: number;
  /** When work may start, [from, to] each, both included; at any time when absent. */
  windows?: [number, number][];
}

/** A leg that leaves at set times only, a ferry for example: replaces the travel minutes between the two. */
export interface Timetable {
  /** Row and column of `travel`; 0 is the depot. */
  from: number;
  to: number;
  /** Minutes on the problem's clock; after the last one of a day the first comes again 24 hours later. */
  departures: number[];
  /** Minutes under way. */
  minutes: number;
}

export interface RoundProblem {
  stops: RoundStop[];
  /** Minutes from row to column, (stops + 1)²; index 0 is the depot. Need not be symmetric. */
  travel: number[][];
  /** Minute of leaving the depot; 0 when absent. */
  startAt?: number;
  /** True when absent. */
  returnToDepot?: boolean;
  timetables?: Timetable[];
}

export interface RoundOptions {
  /** Milliseconds; 5000 when neither this nor `nodeLimit` is given. */
  timeLimitMs?: number;
  /** Steps of the search: with it and the same seed, the same answer on any machine. */
  nodeLimit?: number;
  seed?: number;
  now?: () => number;
}

export interface RoundTimes {
  /** In the order of the stops visited. */
  arrive: number[];
  start: number[];
  leave: number[];
  /** Minutes under way, the way back included; waiting for a departure is not travel. */
  travelMinutes: number;
  /** Minutes after a stop's last window at which its work started, summed. */
  lateMinutes: number;
  /** Back at the depot, or done at the last stop without a way back. */
  endAt: number;
}

export interface OrderedRound extends RoundTimes {
  status: "optimal" | "feasible";
  order: string[];
}
