import { clsx } from "clsx";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A question over the page: it takes the keys, and gives them back to what opened it. */
export function Modal({
  open,
  onOpenChange,
  trigger,
  title,
  wide = false,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  trigger?: ReactNode;
  title: ReactNode;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <Dialog.Trigger className="btn">{trigger}</Dialog.Trigger>}
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className={clsx(
            // Taller than the window, it scrolls: its buttons are always in reach.
            "fixed inset-x-3 bottom-3 z-50 mx-auto max-h-[calc(100dvh-1.5rem)] overflow-y-auto border-2 border-ink bg-surface p-5 sm:top-1/2 sm:bottom-auto sm:-translate-y-1/2",
            wide ? "max-w-3xl" : "max-w-lg",
          )}
        >
          <Dialog.Title className="mb-3 text-xl font-bold wrap-anywhere">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Closes the dialog it stands in. */
export function ModalClose({ children }: { children: ReactNode }) {
  return <Dialog.Close className="btn">{children}</Dialog.Close>;
}
