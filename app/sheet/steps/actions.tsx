import type { ReactNode } from "react";

/** The thumb bar of the step: fixed above the edge of a phone, on wide screens in place, and in sight when its place is below the window. */
export function Actions({ children }: { children: ReactNode }) {
  return (
    <div className="no-print fixed inset-x-0 bottom-0 z-20 flex gap-2 border-t-2 border-ink bg-ground p-3 pb-[max(0.75rem,env(safe-area-inset-bottom))] sm:sticky sm:border-0 sm:bg-surface sm:px-0 sm:py-3 [&>*]:flex-1 sm:[&>*]:flex-none sm:[&>*]:px-8">
      {children}
    </div>
  );
}
