"use client";
/** A group of controls that is folded away while it says nothing; its summary stays in sight. */
import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { ChevronDown } from "lucide-react";
import type { ReactNode } from "react";

interface FoldProps {
  label: string;
  help?: string;
  /** What it comes to, in a few words; with one, the fold is open at first. */
  summary?: string;
  children: ReactNode;
}

export function Fold({ label, help, summary = "", children }: FoldProps) {
  return (
    <Disclosure as="div" defaultOpen={summary !== ""} className="border-t border-linen-2 pt-1.5">
      <DisclosureButton
        title={help}
        className="group flex min-h-6.5 w-full items-center gap-2 rounded-md text-left text-[12.5px] font-medium hover:text-sea"
      >
        {label}
        <span className="grow truncate text-right text-xs font-normal text-ink-6">{summary}</span>
        <ChevronDown size={13} className="text-ink-5 group-data-open:rotate-180" />
      </DisclosureButton>
      <DisclosurePanel className="grid gap-1.5 pb-1 pt-1">{children}</DisclosurePanel>
    </Disclosure>
  );
}
