export interface WeekDuty {
  id: string;
  site: string;
  /** Hands-on minutes, and the least its machine needs with all waits. */
  hands: number;
  longest: number;
  /** What it is worth to do it, against others. */
  value: number;
  /** Day of the week it is due on, 0 = the first; before 0 when it is late already. */
  due: number;
  /** Who may do it: skills and authorisations; null = everybody. */
  people: string[] | null;
}

export interface WeekProblem {
  days: number;
  people: {
    id: string;
    /** Minutes there on each day; 0 = not there. */ minutes: number[];
    /** Sites of their territory; null = all. */ sites: string[] | null;
  }[];
  /** `open`: minutes a day during which people are let in; 0 = closed. */
  sites: { id: string; overhead: number; open: number[] }[];
  duties: WeekDuty[];
  /** Minutes from row to column, (sites + 1)²; index 0 is the depot. */
  travel: number[][];
}

export interface WeekRoute {
  person: string;
  day: number;
  stops: { site: string; duties: string[] }[];
  /** Minutes in all, and those on the way or spent on arriving and leaving. */
  minutes: number;
  overhead: number;
}

export interface WeekPlan {
  routes: WeekRoute[];
  /** Duties that found no place. */
  left: string[];
  cost: number;
  /** No plan costs less. */
  bound: number;
}
