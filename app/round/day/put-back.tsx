import { Form } from "react-router";

import type { Moved } from "./put-on-day.server";

/** Puts duties back where they were before a change. */
export function PutBack({ moved, label }: { moved: Moved; label: string }) {
  return (
    <Form method="post" className="mt-2">
      <input type="hidden" name="duties" value={JSON.stringify(moved.duties)} />
      <input type="hidden" name="before" value={JSON.stringify(moved.before)} />
      <button className="btn" name="intent" value="undo">
        {label}
      </button>
    </Form>
  );
}
