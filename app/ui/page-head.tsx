import { clsx } from "clsx";
import type { ReactNode } from "react";

/** How a page begins: the way back, its title with what it is about, and what can be done with it as a whole. */
export function PageHead({
  back,
  mark,
  title,
  subtitle,
  className,
  children,
}: {
  /** Links to where it belongs. */
  back?: ReactNode;
  mark?: ReactNode;
  title: ReactNode;
  subtitle?: ReactNode;
  className?: string;
  /** Its actions. */
  children?: ReactNode;
}) {
  return (
    <>
      {back && <p className="text-sm [&_a]:inline-block [&_a]:min-h-6">{back}</p>}
      <div
        className={clsx("mb-4 flex flex-wrap items-start justify-between gap-3", Boolean(back) && "mt-1", className)}
      >
        {mark}
        <div className={clsx("min-w-0", Boolean(mark) && "flex-1 basis-48")}>
          <h1 className="text-2xl wrap-anywhere">{title}</h1>
          {subtitle && <div className="text-ink-soft wrap-anywhere">{subtitle}</div>}
        </div>
        {children && <div className="no-print flex flex-wrap gap-2">{children}</div>}
      </div>
    </>
  );
}
