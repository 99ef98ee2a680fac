/** Rows of one site. */
export interface SiteGroup<Row> {
  siteId: string;
  siteName: string;
  rows: Row[];
  /** Hands-on. */
  minutes: number;
  /** Where the person goes today, or has work planned. */
  mine: boolean;
}

interface Row {
  siteId: string;
  siteName: string;
  takes: { hands: number };
  plannedForName: string | null;
}

/** What needs somebody, by site: those on one's own round first, the others by what waits longest there. */
export function bySite<One extends Row>(
  rows: readonly One[],
  mySites: readonly string[],
  myName: string,
): SiteGroup<One>[] {
  const groups = new Map<string, SiteGroup<One>>();
  for (const row of rows) {
    const { siteId, siteName } = row;
    const group = groups.get(siteId) ?? { siteId, siteName, rows: [], minutes: 0, mine: mySites.includes(siteId) };
    group.rows.push(row);
    group.minutes += row.takes.hands;
    group.mine ||= row.plannedForName === myName;
    groups.set(siteId, group);
  }
  const rank = (group: SiteGroup<One>): number => {
    const at = mySites.indexOf(group.siteId);
    if (at >= 0) return at;
    return group.mine ? mySites.length : mySites.length + 1;
  };
  return [...groups.values()].sort((a, b) => rank(a) - rank(b));
}
