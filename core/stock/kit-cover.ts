import { CoreError } from "../errors";
import { requireRecord } from "../inputs";
import { must } from "../must";
import { floorExact, requireNotNegative } from "../numbers";

export interface KitCover {
  /** Whole services that the kit still serves. */
  services: number;
  /** Items that end it, in the order of `perService`: the next service lacks each of them. */
  firstOut: string[];
  /** What is left of each item after those services. */
  leftover: Record<string, number>;
}

/**
 * How many services a kit covers: as many as its scarcest item does.
 *
 * @param input.kit quantity of each item in the kit; of an item with several uses, the uses (a two-sided stick = 2)
 * @param input.perService what one service takes, in the same units
 * @throws CoreError for negative quantities and when a service takes nothing at all
 * @example kitCover({ kit: { stick: 4, card: 10 }, perService: { stick: 1, card: 2 } })
 *   // => { services: 4, firstOut: ['stick'], leftover: { stick: 0, card: 2 } }
 */
export function kitCover(input: {
  kit: Readonly<Record<string, number>>;
  perService: Readonly<Record<string, number>>;
}): KitCover {
  const { kit, perService: wanted } = requireRecord(input, "input");
  requireRecord(wanted, "perService");
  for (const [item, qty] of Object.entries(requireRecord(kit, "kit"))) requireNotNegative(qty, `kit.${item}`);
  const taken = Object.entries(input.perService).filter(
    ([item, qty]) => requireNotNegative(qty, `perService.${item}`) > 0,
  );
  if (taken.length === 0)
    throw new CoreError("missing", "perService", "A service takes nothing of this kit: say what one service takes.");
  const held = (item: string): number => (Object.hasOwn(input.kit, item) ? must(input.kit[item]) : 0);
  const covers = taken.map(([item, qty]) => ({ item, services: floorExact(held(item) / qty) }));
  const services = Math.min(...covers.map((one) => one.services));
  const perService = new Map(taken);
  return {
    services,
    firstOut: covers.filter((one) => one.services === services).map((one) => one.item),
    leftover: Object.fromEntries(
      Object.keys(input.kit).map((item) => [
        item,
        Number(Math.max(0, held(item) - services * (perService.get(item) ?? 0)).toPrecision(12)),
      ]),
    ),
  };
}
