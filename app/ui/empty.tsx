import type { ReactNode } from "react";

/** Nothing here: says so, and what to do about it. */
export function Empty({ title, children }: { title?: ReactNode; children?: ReactNode }) {
  return (
    <div className="panel p-5">
      {title && <p className="text-lg font-semibold">{title}</p>}
      {children && <p className={title ? "mt-1" : undefined}>{children}</p>}
    </div>
  );
}
