import type { ComponentProps } from "react";

const LOOKS = {
  plain: "border border-edge bg-card hover:bg-river-wash",
  main: "border border-river bg-river text-on-river hover:opacity-90",
  quiet: "border border-transparent hover:bg-river-wash",
  danger: "border border-stop text-stop bg-card hover:bg-stop hover:text-paper",
};

interface ButtonProps extends ComponentProps<"button"> {
  look?: keyof typeof LOOKS;
}

/** A button. `look`: plain, main (one a screen), quiet (in rows and bars), danger. */
export function Button({ look = "plain", className = "", ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex min-h-8 items-center gap-1.5 rounded px-2.5 text-sm disabled:cursor-default disabled:opacity-45 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
