export { type Carry, carryFor } from "./carry-for";
export { explodeDemand } from "./explode-demand";
export { kitCover, type KitCover } from "./kit-cover";
export { loadList, type LikelyNeed, type LoadLine, type LoadNeed } from "./load-list";
export { procedureNeeds } from "./procedure-needs";
export { runOut } from "./run-out";
export type { Demand, ItemDemand, ItemUse, Lot } from "./types";
export { useShare, type UseShare } from "./use-share";
