import type { Procedure } from "@core";

import { type AboutSection, USUAL_STATES } from "./about-fields";
import { FieldForm } from "./field-form";

/** A part of what a procedure is beside its steps. */
export function AboutEditor({
  procedure,
  section,
  onChange,
}: {
  procedure: Procedure;
  section: AboutSection;
  onChange: (procedure: Procedure) => void;
}) {
  const older = section.newer && procedure.formatVersion === 1;
  const missing = section.newer ? USUAL_STATES.filter(({ id }) => !procedure.states?.some((one) => one.id === id)) : [];
  if (older)
    return (
      <>
        <p>
          This procedure is one list, as it was written before there were states. Taken into the newer form, steps say
          what the machine has to be in, and parts go their own way on the bench.
        </p>
        <button type="button" className="btn mt-3" onClick={() => onChange({ ...procedure, formatVersion: 2 })}>
          Take it into the newer form
        </button>
      </>
    );
  return (
    <>
      {missing.length > 0 && (
        <p className="mb-3 flex flex-wrap items-center gap-2">
          Usual ones:
          {missing.map((state) => (
            <button
              key={state.id}
              type="button"
              className="btn"
              onClick={() => onChange({ ...procedure, states: withState(procedure.states ?? [], state) })}
            >
              {state.name}
            </button>
          ))}
        </p>
      )}
      <FieldForm
        at={`about-${section.id}`}
        specs={section.fields}
        value={procedure as unknown as Readonly<Record<string, unknown>>}
        onChange={(next) => onChange(next as unknown as Procedure)}
      />
    </>
  );
}

type States = NonNullable<Procedure["states"]>;

/** Adds a usual state where it comes in the order of the usual ones; it names only states that there are. */
function withState(states: States, added: States[number]): States {
  const place = (id: string): number => USUAL_STATES.findIndex((one) => one.id === id);
  const behind = states.findIndex((one) => place(one.id) > place(added.id));
  const all = [...states];
  all.splice(behind < 0 ? all.length : behind, 0, added);
  const isThere = (id: string): boolean => all.some((one) => one.id === id);
  return all.map((state) => {
    const usual = USUAL_STATES.find((one) => one.id === state.id);
    const { excludes = [], lostBy = [], ...rest } = state;
    // What a usual state has to do with one that came later.
    const to = (own: readonly string[], known: readonly string[] = []): string[] =>
      [...new Set([...own, ...known.filter((id) => id === added.id || state === added)])].filter(isThere);
    const [excluded, lost] = [to(excludes, usual?.excludes), to(lostBy, usual?.lostBy)];
    return {
      ...rest,
      ...(excluded.length > 0 ? { excludes: excluded } : {}),
      ...(lost.length > 0 ? { lostBy: lost } : {}),
    };
  });
}
