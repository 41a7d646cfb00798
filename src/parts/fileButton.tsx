import { useRef, type ReactNode } from 'react';

interface FileButtonProps {
  /** What the file is, for screen readers. */
  label: string;
  accept: string;
  onFile: (file: File) => void;
  children: ReactNode;
  className?: string;
  title?: string;
  disabled?: boolean;
}

/** A button that asks for a file; one may be let go on it as well. The same file may be chosen again. */
export function FileButton({ label, accept, onFile, children, className = 'btn', title, disabled }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className={className}
        title={title}
        disabled={disabled}
        onClick={() => input.current?.click()}
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          const [dropped] = e.dataTransfer.files;
          if (dropped) onFile(dropped);
        }}
      >
        {children}
      </button>
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(e) => {
          const [chosen] = e.target.files ?? [];
          e.target.value = '';
          if (chosen) onFile(chosen);
        }}
      />
    </>
  );
}
