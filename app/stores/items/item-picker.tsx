import { useState } from "react";

import { PlainField } from "~/ui/plain-field";

import { useFoundItems } from "./use-found-items";

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
  const [text, setText] = useState(defaultValue ?? "");
  const found = useFoundItems(text);
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
        {found.items.map((item) => (
          <option key={item.id} value={item.name}>
            {item.note}
          </option>
        ))}
      </datalist>
    </>
  );
}
