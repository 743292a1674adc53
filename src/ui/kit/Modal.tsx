"use client";
/** A dialog in the middle of the screen. */
import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

interface ModalProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
  width?: string;
}

export function Modal({ title, onClose, children, width = "w-[480px]" }: ModalProps) {
  return (
    <Dialog open onClose={onClose} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink-9/25" />
      <div className="fixed inset-0 grid place-items-center p-6">
        <DialogPanel
          className={`max-h-full max-w-full overflow-auto rounded-[10px] border border-linen-2 bg-linen-0 p-5 shadow-float ${width}`}
        >
          <DialogTitle className="mb-3 text-base font-semibold">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
