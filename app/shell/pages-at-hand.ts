/** Pages of a technician's day: their scripts are fetched ahead, as a page whose script cannot be fetched is none. */
export const AT_HAND = [
  "round/round.route",
  "round/day/day.route",
  "round/day/load.route",
  "machines/machine.route",
  "machines/machines.route",
  "sheet/duty.route",
  "sheet/sheet.route",
  "sheet/signing/sign.route",
  "book/record.route",
  "book/book.route",
  "stores/items/stores.route",
  "stores/items/item.route",
];

const AFTER_MS = 3_000;

interface Manifest {
  routes: Record<string, { module: string; imports?: string[] } | undefined>;
}

/** Once the page is quiet; not where the person saves data. */
export function keepPagesAtHand(): void {
  const { connection } = navigator as { connection?: { saveData?: boolean } };
  if (connection?.saveData) return;
  setTimeout(() => {
    const { routes } = (window as unknown as { __reactRouterManifest: Manifest }).__reactRouterManifest;
    const scripts = new Set(AT_HAND.flatMap((id) => [routes[id]?.module ?? [], routes[id]?.imports ?? []].flat()));
    for (const href of scripts) {
      const link = document.createElement("link");
      link.rel = "modulepreload";
      link.href = href;
      document.head.append(link);
    }
  }, AFTER_MS);
}
