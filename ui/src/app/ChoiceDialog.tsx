import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";

interface ChoiceDialogProps {
  name: string;
  title: string;
  says: string;
  /** What is to be seen before choosing. */
  detail?: ReactNode;
  /** The choices, as buttons. */
  children: ReactNode;
}

/** A dialog that stays until a person has chosen. */
export function ChoiceDialog({ name, title, says, detail, children }: ChoiceDialogProps) {
  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content
          className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[min(40rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg border border-edge bg-card p-5"
          data-dialog={name}
        >
          <AlertDialog.Title className="text-xl">{title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 text-sm">{says}</AlertDialog.Description>
          {detail}
          <div className="mt-4 flex flex-wrap justify-end gap-2">{children}</div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
