import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";

interface ModalProps {
  title: string;
  /** Names it for tests and styles. */
  name: string;
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
}

/** A dialog over the page; Escape and a click beside it close it. */
export function Modal({ title, name, wide = false, onClose, children }: ModalProps) {
  // Opened by a key or a menu it has no trigger of its own: the focus goes back to where it was.
  const [before] = useState(() => document.activeElement);
  const giveBack = (event: Event) => {
    event.preventDefault();
    if (before instanceof HTMLElement) before.focus();
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          className={`fixed top-1/2 left-1/2 z-50 max-h-[92vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg border border-edge bg-card p-5 ${wide ? "w-[min(60rem,96vw)]" : "w-[min(34rem,94vw)]"}`}
          aria-describedby={undefined}
          onCloseAutoFocus={giveBack}
          data-dialog={name}
        >
          <Dialog.Title className="text-xl">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
