"use client";
/** Buttons: a plain one, the one that matters most on a screen, and square ones with a picture and a name. */
import type { ButtonHTMLAttributes, ReactNode } from "react";

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: "plain" | "main" | "dashed" | "warning" | "quiet";
}

const LOOKS = {
  plain: "border-linen-3 bg-linen-0 hover:bg-linen-1",
  main: "border-ink-9 bg-ink-9 font-medium text-paper hover:bg-ink-6",
  dashed: "border-dashed border-linen-4 bg-linen-0 hover:bg-linen-1",
  warning: "border-warn bg-ochre-soft text-ochre-dark hover:bg-warn-hover",
  quiet: "border-transparent hover:bg-linen-1",
} as const;

export function Button({ look = "plain", className = "", ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex h-8 items-center justify-center gap-1.5 whitespace-nowrap rounded-lg border px-2.5 disabled:opacity-45 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}

export function IconButton({
  label,
  children,
  className = "",
  ...rest
}: ButtonProps & { label: string; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className={`inline-grid size-8 shrink-0 place-items-center rounded-lg text-ink-6 hover:bg-linen-1 hover:text-ink-9 disabled:opacity-40 disabled:hover:bg-transparent ${className}`}
      {...rest}
    >
      {children}
    </button>
  );
}
