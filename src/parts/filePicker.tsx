import { useRef, type ReactNode } from 'react';

interface FilePickerOptions {
  /** What the file is, for screen readers. */
  label: string;
  accept?: string;
  /** Whether several may be chosen at once. */
  multiple?: boolean;
  /** At least one; the same may be chosen again. */
  onFiles: (files: File[]) => void;
  testId?: string;
}

/**
 * A file that something asks for which is no button itself, such as an item of a menu: `pick` opens the browser's own
 * dialog, `input` stands somewhere beside it, where it stays while the menu closes.
 */
export function useFilePicker({ label, accept, multiple, onFiles, testId }: FilePickerOptions): {
  pick: () => void;
  input: ReactNode;
} {
  const ref = useRef<HTMLInputElement>(null);
  return {
    pick: () => ref.current?.click(),
    input: (
      <input
        ref={ref}
        type="file"
        hidden
        accept={accept}
        multiple={multiple}
        aria-label={label}
        data-testid={testId}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length > 0) onFiles(files);
        }}
      />
    ),
  };
}
