import type { ReactNode } from 'react';
import { useFilePicker } from './filePicker';

interface FileButtonProps {
  /** What the file is, for screen readers. */
  label: string;
  accept?: string;
  onFile: (file: File) => void;
  children: ReactNode;
  className?: string;
  title?: string;
  /** By what commands find it. */
  action?: string;
  disabled?: boolean;
}

/** A button that asks for a file; one may be let go on it as well. The same file may be chosen again. */
export function FileButton(props: FileButtonProps) {
  const { label, accept, onFile, children, className = 'btn', title, action, disabled } = props;
  const { pick, input } = useFilePicker({ label, accept, onFiles: ([file]) => onFile(file!) });
  return (
    <>
      <button
        type="button"
        className={className}
        title={title}
        data-action={action}
        disabled={disabled}
        onClick={pick}
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          const [dropped] = e.dataTransfer.files;
          if (dropped) onFile(dropped);
        }}
      >
        {children}
      </button>
      {input}
    </>
  );
}
