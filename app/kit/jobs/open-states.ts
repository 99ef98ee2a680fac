import type { JobState } from "@db";

/** States of a job that has not come to an end. */
export const OPEN_STATES: readonly JobState[] = ["waiting", "running"];

export const isOpen = ({ state }: { state: JobState }): boolean => OPEN_STATES.includes(state);
