/** One use of an item on a day. */
export interface Demand {
  /** 'YYYY-MM-DD' */
  on: string;
  qty: number;
}

export interface ItemDemand extends Demand {
  item: string;
  /** Probability from 0 to 1 that it is needed; 1 = sure. */
  chance: number;
}

/** What one service of a duty takes. Quantities in the item's unit; in uses for items that serve several times. */
export interface ItemUse {
  item: string;
  qty: number;
  /** 1 when absent. */
  chance?: number;
}

export interface Lot {
  qty: number;
  /** Last day on which it may be used; never expires when absent. */
  expires?: string;
}
