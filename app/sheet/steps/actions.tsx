import type { ReactNode } from "react";

/** The thumb bar of the step: fixed above the edge of a phone, in place on wide screens. */
export function Actions({ children }: { children: ReactNode }) {
  return (
    <div className="no-print fixed inset-x-0 bottom-0 z-20 flex gap-2 border-t-2 border-ink bg-ground p-3 pb-[max(0.75rem,env(safe-area-inset-bottom))] sm:static sm:border-0 sm:bg-transparent sm:p-0 [&>*]:flex-1 sm:[&>*]:flex-none sm:[&>*]:px-8">
      {children}
    </div>
  );
}
