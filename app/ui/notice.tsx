import type { ReactNode } from "react";

import { useSaidDays } from "./day";

/** A message that needs reading: speaks by black and white, a mark and words, never by a safety colour. */
export function Notice({
  tone = "plain",
  children,
  title,
}: {
  tone?: "plain" | "problem";
  title?: string;
  children?: ReactNode;
}) {
  // What the server says knows days as the core does.
  const said = useSaidDays();
  return (
    <div
      role={tone === "problem" ? "alert" : "status"}
      className={`panel flex gap-3 p-3 not-last:mb-3 ${tone === "problem" ? "border-2 border-ink" : ""}`}
    >
      <span
        aria-hidden="true"
        className="mt-0.5 grid size-6 shrink-0 place-items-center rounded-full border-2 border-current font-bold"
      >
        {tone === "problem" ? "!" : "i"}
      </span>
      <div className="min-w-0">
        {title && <p className="font-semibold">{title}</p>}
        {typeof children === "string" ? said(children) : children}
      </div>
    </div>
  );
}
