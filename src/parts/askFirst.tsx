import { useState, type ReactNode } from 'react';

interface AskFirstProps {
  /** What is done, in the words of a button: "Remove it". */
  act: string;
  /** What leaves it as it is: "Keep it". */
  leave: string;
  onAct: () => void;
  /** What is shown until it is pressed; `ask` puts the question in its place. */
  children: (ask: () => void) => ReactNode;
}

/** What takes something away is asked once more, in its place. */
export function AskFirst({ act, leave, onAct, children }: AskFirstProps) {
  const [asked, setAsked] = useState(false);
  if (!asked) return <>{children(() => setAsked(true))}</>;
  return (
    <span
      className="flex items-center gap-1"
      role="group"
      aria-label={act}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.stopPropagation();
        setAsked(false);
      }}
    >
      <button
        className="btn text-stop"
        onClick={() => {
          setAsked(false);
          onAct();
        }}
      >
        {act}
      </button>
      <button className="btn btn-bare" autoFocus onClick={() => setAsked(false)}>
        {leave}
      </button>
    </span>
  );
}
