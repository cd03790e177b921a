import { Popover } from "radix-ui";
import type { ReactNode, RefObject } from "react";

interface AnchoredPopoverProps {
  /** The button that opened it: it stands by it, and gives the focus back to it. */
  button: RefObject<HTMLButtonElement | null>;
  label: string;
  align?: "center" | "end";
  className: string;
  /** Whether an arrow points at the button. */
  arrow?: boolean;
  onClose: () => void;
  children: ReactNode;
}

/** A box by its button, open as long as it is there. */
export function AnchoredPopover(props: AnchoredPopoverProps) {
  const { button, label, align = "center", className, arrow = false, onClose, children } = props;
  const onButton = (target: EventTarget | null) =>
    target instanceof Node && button.current?.contains(target);
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={button as RefObject<HTMLButtonElement>} />
      <Popover.Portal>
        <Popover.Content
          className={`z-40 rounded-md border border-edge bg-card p-4 shadow-lg ${className}`}
          sideOffset={6}
          collisionPadding={10}
          align={align}
          aria-label={label}
          onCloseAutoFocus={() => button.current?.focus()}
          onPointerDownOutside={(event) => onButton(event.target) && event.preventDefault()}
        >
          {children}
          {arrow ? <Popover.Arrow className="fill-edge" /> : null}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
