import { clsx } from "clsx";
import { Collapsible } from "radix-ui";
import { type ReactNode, useState } from "react";

const LOOKS = {
  link: "inline-block min-h-11 py-2 underline decoration-dotted underline-offset-4",
  strong: "min-h-11 font-semibold",
  head: "min-h-12 py-2 text-lg font-bold",
  button: "btn",
};

/**
 * What is there when it is wanted. Closed, its content stays in the document, so that the fields of a form in it are sent.
 * `open` opens it again when it turns true: an answer that concerns what is in it must be seen.
 */
export function Disclosure({
  title,
  label,
  look = "link",
  open: wanted = false,
  className,
  titleClass,
  children,
}: {
  title: ReactNode;
  /** Says more than the title where several stand on a page. */
  label?: string;
  look?: keyof typeof LOOKS;
  open?: boolean;
  className?: string;
  titleClass?: string;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(wanted);
  const [before, setBefore] = useState(wanted);
  if (wanted !== before) {
    setBefore(wanted);
    if (wanted) setOpen(true);
  }
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen} className={className}>
      <Collapsible.Trigger
        className={clsx(LOOKS[look], "cursor-pointer text-left", titleClass)}
        {...(label ? { "aria-label": label } : {})}
      >
        {look !== "button" && (
          <span aria-hidden="true" className={clsx("mr-1 inline-block transition-transform", open && "rotate-90")}>
            ▸
          </span>
        )}
        {title}
      </Collapsible.Trigger>
      <Collapsible.Content forceMount hidden={!open}>
        {children}
      </Collapsible.Content>
    </Collapsible.Root>
  );
}
