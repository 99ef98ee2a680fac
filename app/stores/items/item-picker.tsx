import { useEffect, useRef, useState } from "react";
import { useFetcher } from "react-router";

import { PlainField } from "~/ui/plain-field";

/** What the finder answers. */
export interface FoundItems {
  items: { id: string; name: string; note: string; unit: string; scanCode: string | null }[];
}

const WAIT_MS = 200;

/**
 * A field for one item: scanned, typed, or taken from what begins alike. A scanner types the code and a return: the cursor
 * then goes on to the next field instead of sending a form that is not filled in yet. The server knows what was meant.
 */
export function ItemPicker({
  id,
  label = "Item",
  answer,
  defaultValue,
  autoFocus,
}: {
  id: string;
  label?: string;
  answer: string[] | undefined;
  defaultValue?: string;
  autoFocus?: boolean;
}) {
  const found = useFetcher<FoundItems>();
  const { load } = found;
  const [text, setText] = useState(defaultValue ?? "");
  const asked = useRef("");
  useEffect(() => {
    const q = text.trim();
    if (q.length < 2 || q === asked.current) return;
    const timer = setTimeout(() => {
      asked.current = q;
      void load(`/stores/find?${new URLSearchParams({ q })}`);
    }, WAIT_MS);
    return () => clearTimeout(timer);
  }, [text, load]);
  return (
    <>
      <PlainField
        id={id}
        name="item"
        label={label}
        answer={answer}
        list={`${id}-list`}
        value={text}
        autoComplete="off"
        autoFocus={autoFocus}
        placeholder="Scan or type"
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          const { form } = event.currentTarget;
          const fields = [...(form?.querySelectorAll<HTMLElement>("input:not([type=hidden]), select, textarea") ?? [])];
          const next = fields[fields.indexOf(event.currentTarget) + 1];
          if (!next) return;
          event.preventDefault();
          next.focus();
        }}
      />
      <datalist id={`${id}-list`}>
        {found.data?.items.map((item) => (
          <option key={item.id} value={item.name}>
            {item.note}
          </option>
        ))}
      </datalist>
    </>
  );
}
