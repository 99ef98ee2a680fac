/** Short word for an item made from its name. */
export function itemKey(name: string): string {
  return name
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 80);
}

/** Keys of what procedures name in words only: tools and protection. A torch to see with is no torch of a spectrometer. */
export function toolKey(name: string): string {
  return `tool-${itemKey(name)}`.slice(0, 80);
}

export function protectionKey(name: string): string {
  return `wear-${itemKey(name)}`.slice(0, 80);
}

/** Whether a key is of what is carried and stays in the van. */
export const isStanding = (key: string): boolean => /^(tool|wear)-/.test(key);

export type ItemKind = "part" | "consumable" | "chemical" | "tool" | "protective";
