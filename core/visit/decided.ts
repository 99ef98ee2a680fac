/** What is decided of a pair, as bits of its state. */
export const FIRST_BEFORE = 1;
export const SECOND_BEFORE = 2;
/** The first does not end before the second starts. */
export const NOT_FIRST_BEFORE = 4;
export const NOT_SECOND_BEFORE = 8;

/** A wait of no least length that holds something. */
export const UNDECIDED = 0;
export const HOLDS = 1;
export const EMPTY = 2;
