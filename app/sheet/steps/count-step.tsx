import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";

export function CountStep({ one, open, log }: StepCardProps<"count">) {
  const counted = one.state?.counted ?? 0;
  const { times, each } = one.definition;
  return (
    <>
      <p className="mb-2 text-xl">
        <span className="figure text-6xl font-bold">{counted}</span> of {times}
      </p>
      <p className="mb-5 flex gap-1" aria-hidden="true">
        {Array.from({ length: times }, (_, i) => (
          <span key={i} className={`h-4 flex-1 border-2 border-ink ${i < counted ? "bg-fill" : ""}`} />
        ))}
      </p>
      {open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" onClick={() => log({ type: "counted", ...at(one) })}>
            One {each} more
          </button>
        </Actions>
      )}
    </>
  );
}
