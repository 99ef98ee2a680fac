/** A list by what its members have in common, each group in the list's order. */
export function grouped<One>(list: readonly One[], by: (one: One) => string): Map<string, One[]> {
  const groups = new Map<string, One[]>();
  for (const one of list) {
    const key = by(one);
    const known = groups.get(key);
    if (known) known.push(one);
    else groups.set(key, [one]);
  }
  return groups;
}
