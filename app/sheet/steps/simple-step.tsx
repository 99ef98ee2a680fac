import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";
import { useMaterials } from "./use-materials";

export function SimpleStep(props: StepCardProps & { button: string }) {
  const materials = useMaterials(props);
  return (
    <>
      {props.open && materials.fields}
      {props.open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            onClick={() => materials.take((used) => props.log(...used, { type: "step-done", ...at(props.one) }))}
          >
            {props.button}
          </button>
        </Actions>
      )}
    </>
  );
}
