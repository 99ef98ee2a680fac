import { clsx } from "clsx";
import type { ReactNode } from "react";

/** A table that scrolls sideways by itself when it is wider than the page, and can be reached by key then. */
export function Table({
  caption,
  panel = false,
  className,
  regionClass,
  children,
}: {
  caption: string;
  panel?: boolean;
  className?: string;
  regionClass?: string;
  children: ReactNode;
}) {
  return (
    <div
      role="region"
      aria-label={caption}
      tabIndex={0}
      className={clsx("overflow-x-auto", panel && "panel px-4 py-1", regionClass)}
    >
      <table className={clsx("table-plain w-full", className)}>
        <caption className="sr-only">{caption}</caption>
        {children}
      </table>
    </div>
  );
}
