import type { Role } from "@db";

/** The signed-in person, as far as permissions need to know. */
export interface Actor {
  id: string;
  name: string;
  role: Role;
  authorisations: { kind: string; expiresOn: string | null }[];
}

interface Duty {
  who: "operator" | "technician" | "licensed";
  authorisation: string | null;
}

/** The authorisation a duty asks for: its own, or the general one for licensed work. */
export function neededAuthorisation(duty: Duty): string | null {
  return duty.authorisation ?? (duty.who === "licensed" ? "licensed" : null);
}

/**
 * Whether a person may work a duty on a day.
 *
 * @param today the site's day: an authorisation counts up to and including the day it expires
 * @returns null when yes, else the reason
 */
export function whyNotWork(actor: Actor, duty: Duty, today: string): string | null {
  const needed = neededAuthorisation(duty);
  if (needed === null) return null;
  const held = actor.authorisations.filter((one) => one.kind === needed);
  if (held.some((one) => one.expiresOn === null || one.expiresOn >= today)) return null;
  return held.length > 0
    ? `Your authorisation "${needed}" has expired. A lead can renew it under Book, People.`
    : `This work is for persons authorised for "${needed}". Hand it over, or ask a lead.`;
}
