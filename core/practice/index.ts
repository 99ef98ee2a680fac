export { byTheGuide } from "./best-way";
export { drawFault, type HiddenFault } from "./draw-fault";
export { checksOf, FaultPractice, type PracticeAct, type PracticeLine } from "./fault-practice";
export { GOOD_TIMES, judgeFault, type PracticeResult } from "./judge-fault";
export { judgeSheet, minutesOfEntry, type SheetPractice } from "./judge-sheet";
export { type Shown, shownAt, surfaceAfter } from "./sheet-machine";
