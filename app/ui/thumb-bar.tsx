import type { ReactNode } from "react";

/**
 * The main actions of a page that is worked with on the way: on a phone above the places, where the thumb is; on wide screens in
 * place. The page keeps room for it below.
 */
export function ThumbBar({ children }: { children: ReactNode }) {
  return (
    <div className="no-print fixed inset-x-0 bottom-[calc(3rem+env(safe-area-inset-bottom))] z-20 flex gap-2 border-t-2 border-ink bg-ground p-2 sm:static sm:border-0 sm:bg-transparent sm:p-0 [&>*]:min-w-0 [&>*]:flex-1 sm:[&>*]:flex-none">
      {children}
    </div>
  );
}
