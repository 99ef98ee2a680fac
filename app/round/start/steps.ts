import type { FirstSteps } from "./first-steps.server";

export interface Step {
  title: string;
  says: string;
  done: boolean;
  /** It can wait: what comes after it does not need it. */
  later: boolean;
  /** Where it is done; `to` is null where this page does it. */
  door: { label: string; to: string | null } | null;
}

const many = (count: number, one: string, more: string): string => (count === 1 ? `One ${one}` : `${count} ${more}`);

/** What a firm that begins does in which order, and how far it is. */
export function stepsOf({ procedures, depot, sites, machines, owing, people, next, signed }: FirstSteps): Step[] {
  return [
    {
      title: "The library",
      says:
        procedures > 0
          ? `${many(procedures, "version", "versions")} of procedures: what is done on a machine, step by step.`
          : "Procedures say what is done on a machine, step by step, and when. Those that come with the app cover nineteen families.",
      done: procedures > 0,
      later: false,
      door: procedures > 0 ? { label: "Look at it", to: "/book/procedures" } : { label: "Load them", to: null },
    },
    {
      title: "Where the round starts",
      says: depot ?? "Your depot, with its time zone. Without one the round begins at the first site.",
      done: depot !== null,
      later: true,
      door: { label: depot === null ? "Set the depot" : "Change it", to: "/ways" },
    },
    {
      title: "The first site",
      says: sites > 0 ? many(sites, "site", "sites") : "Whose it is, where, and when one gets in.",
      done: sites > 0,
      later: false,
      door: { label: sites > 0 ? "Another one" : "Add a site", to: "/sites/new" },
    },
    {
      title: "Its machines",
      says:
        machines > 0
          ? many(machines, "machine", "machines")
          : "By hand or by scanning its tag; many at once from a file, under Machines.",
      done: machines > 0,
      later: false,
      door: sites > 0 ? { label: machines > 0 ? "Another one" : "Add a machine", to: "/machines/new" } : null,
    },
    {
      title: "What they owe",
      says: owing
        ? "First days are spread out. Look at them, and change what is otherwise with you."
        : "Comes from the procedures of a machine's family.",
      done: owing !== null,
      later: false,
      door: owing && { label: `Look at ${owing.name}`, to: `/machines/${owing.id}/first-duties` },
    },
    {
      title: "Who works",
      says: people > 1 ? `${people} people` : "Only you so far. Technicians sign in with a name of their own.",
      done: people > 1,
      later: true,
      door: { label: "Add people", to: "/book/people" },
    },
    {
      title: "The first sheet",
      says: signed
        ? "The first record is signed. The round shows what comes next."
        : next
          ? `${next.title} on ${next.machine} comes first. It may be worked at once.`
          : "Worked step by step, signed, and in the book.",
      done: signed,
      later: false,
      door: signed ? { label: "To the round", to: "/round" } : next && { label: "Open it", to: `/duties/${next.id}` },
    },
  ];
}
