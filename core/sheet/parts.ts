import type { Step } from "./procedure";

/** What comes off the machine with a step, by name, as either version of the format says it. */
export const comesOff = ({ takesOff = [], removes = [] }: Step): string[] => [
  ...takesOff.map((part) => part.item),
  ...removes,
];

/** What goes back on with a step. */
export const goesBackOn = ({ putsBack = [], refits = [] }: Step): string[] => [
  ...putsBack.map((part) => part.item),
  ...refits,
];

/** Ways that parts go on the bench, by what they are. */
export function pathsOfParts(steps: Iterable<Pick<Step, "opens" | "takesOff">>): Map<string, Set<string>> {
  const paths = new Map<string, Set<string>>();
  for (const { opens, takesOff = [] } of steps)
    if (opens !== undefined)
      for (const { item } of takesOff) paths.set(item, (paths.get(item) ?? new Set()).add(opens));
  return paths;
}
