'use client';
import { keyText, useCommands } from '@/client';
import { Dialog } from '@/parts';

/** The keys of the present view. */
export function KeysSheet() {
  const { keysOpen, sets } = useCommands();
  const commands = Object.values(sets)
    .flat()
    .filter((c) => c.keys);
  const groups = [...new Set(commands.map((c) => c.group))];
  return (
    <Dialog
      wide
      open={keysOpen}
      onClose={() => useCommands.setState({ keysOpen: false })}
      title="Keys"
      note="On figures: drag, arrow keys (Shift for ten steps), type, double-click for the usual value."
    >
      <p className="mb-4">
        <a href="/guide" target="_blank" rel="noopener" className="underline">
          The guide
        </a>
        : the whole work from the first word to the hand-over, in the order in which it is done.
      </p>
      <div className="columns-2 gap-8">
        {groups.map((g) => (
          <section key={g} className="mb-4 break-inside-avoid">
            <h3 className="small mb-1 text-quiet">{g}</h3>
            {commands
              .filter((c) => c.group === g)
              .map((c) => (
                <div key={c.id} data-command={c.id} className="flex justify-between gap-4 border-b py-1">
                  <span>{c.label}</span>
                  <kbd className="figure whitespace-nowrap text-quiet">{keyText(c.keys)}</kbd>
                </div>
              ))}
          </section>
        ))}
      </div>
    </Dialog>
  );
}
