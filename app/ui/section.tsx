import { clsx } from "clsx";
import type { ReactNode } from "react";

/** A part of a page under its heading; as a panel where it stands beside others. */
export function Section({
  id,
  title,
  panel = false,
  className,
  children,
}: {
  id: string;
  title: ReactNode;
  panel?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <section aria-labelledby={id} className={clsx(panel && "panel p-4", className)}>
      <h2 id={id} className={clsx("scroll-mt-20 text-lg", panel ? "mb-1" : "mb-2")}>
        {title}
      </h2>
      {children}
    </section>
  );
}
