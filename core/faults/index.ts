export { learnCauses, type LearnedCause } from "./learn-causes";
export { nextCheck, type NextCheck, type NextCheckInput } from "./next-check";
