import { Form } from "react-router";

import type { TakenOff } from "./clear-day.server";

/** Puts back on the day what was taken off it. */
export function PutBack({ moved }: { moved: TakenOff }) {
  return (
    <Form method="post" className="mt-2">
      <input type="hidden" name="duties" value={JSON.stringify(moved.duties)} />
      <input type="hidden" name="before" value={JSON.stringify(moved.before)} />
      <button className="btn" name="intent" value="undo">
        Put them back
      </button>
    </Form>
  );
}
