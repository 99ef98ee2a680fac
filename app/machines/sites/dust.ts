import type { Dust } from "@db";

/** How dusty a site is, as people say it. */
export const DUST: readonly { id: Dust; name: string }[] = [
  { id: "little", name: "Little" },
  { id: "usual", name: "As usual" },
  { id: "much", name: "Much: flour, lint, sawdust, traffic" },
];

export const dustWords = (dust: Dust): string => (DUST.find((one) => one.id === dust)?.name ?? dust).replace(/:.*/, "");
