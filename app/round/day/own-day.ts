import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";

/** Refuses who may not change a person's day: their own is everybody's, another's a lead's business. */
export function ownDay(personId: string): (who: Actor) => void {
  return (who) => {
    if (personId !== who.id && who.role !== "lead")
      throw new Refusal(403, "not-yours", "This is another person's day. Ask them or a lead.");
  };
}
