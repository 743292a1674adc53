"use client";
/** The browser's own choice of files, opened by whoever holds its ref. */
import type { RefObject } from "react";

interface FilesInputProps {
  input: RefObject<HTMLInputElement | null>;
  id?: string;
  accept: string;
  testId: string;
  onFiles: (files: File[]) => void;
}

export const FilesInput = ({ input, id, accept, testId, onFiles }: FilesInputProps) => (
  <input
    ref={input}
    id={id}
    type="file"
    accept={accept}
    multiple
    hidden
    data-testid={testId}
    onChange={(event) => {
      const files = [...(event.target.files ?? [])];
      // The same file may be chosen again.
      event.target.value = "";
      if (files.length > 0) onFiles(files);
    }}
  />
);
