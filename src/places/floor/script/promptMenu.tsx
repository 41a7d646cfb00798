'use client';
import { MonitorUp } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { create as matrixOf } from 'qrcode';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { lookAtLink, openToNetwork, useSession, useSharedLink, withdrawLink } from '@/client';
import { Dialog } from '@/parts';

/** How often it is looked how many windows are open (ms). */
const LOOK = 2_000;

/** The performer's window: in this browser, or on another machine while that is allowed. */
export function PromptMenu() {
  const session = useSession((s) => s.id)!;
  const link = useSharedLink((s) => s.link);
  const [sharing, setSharing] = useState(false);
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="chip border-0"
          aria-label="Open the prompt for the performer"
          title={link ? 'The performer’s window is open to the network' : 'The performer’s window'}
          style={link ? { color: 'var(--brass)' } : undefined}
        >
          <MonitorUp size={14} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop min-w-57.5 p-1" sideOffset={4} align="end">
            <DropdownMenu.Item asChild className="menu-item">
              <a href={`/prompt/${session}`} target="wide-room-prompt">
                In a window of this computer
              </a>
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => setSharing(true)}>
              On another machine…
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {sharing && <ShareDialog session={session} onClose={() => setSharing(false)} />}
    </>
  );
}

function ShareDialog({ session, onClose }: { session: string; onClose: () => void }) {
  const link = useSharedLink((s) => s.link);
  useEffect(() => {
    const look = () =>
      void lookAtLink(session).catch(() => {
        // The server is away; looked at again.
      });
    look();
    const timer = setInterval(look, LOOK);
    return () => clearInterval(timer);
  }, [session]);
  const work = (what: Promise<void>) => void what.catch((e: Error) => toast.error(e.message));
  return (
    <Dialog
      open
      onClose={onClose}
      title="The performer’s window on another machine"
      note="Words, picture and timecode can be seen there, and nothing can be changed. It is closed to the network until you open it."
    >
      {link === null ? (
        <div className="flex justify-end">
          <button className="btn btn-main" onClick={() => work(openToNetwork(session))}>
            Open it to the network
          </button>
        </div>
      ) : link.urls.length === 0 ? (
        <p className="text-warn">This computer is in no network, so no other machine can open it.</p>
      ) : (
        <div className="flex gap-5">
          <Matrix text={link.urls[0]!} />
          <div className="min-w-0 flex-1">
            <p className="mb-1">Open this address there, or point its camera at the pattern:</p>
            <ul>
              {link.urls.map((u) => (
                <li key={u}>
                  <a className="figure break-all text-brass" href={u} target="_blank" rel="noreferrer">
                    {u}
                  </a>
                </li>
              ))}
            </ul>
            <p className="small mt-2 text-quiet" role="status">
              {link.windows === 0
                ? 'Nobody has opened it yet.'
                : `${link.windows} ${link.windows === 1 ? 'window is' : 'windows are'} open.`}
            </p>
          </div>
        </div>
      )}
      {link && (
        <div className="mt-4 flex justify-end">
          <button className="btn" onClick={() => work(withdrawLink(session))}>
            Withdraw it
          </button>
        </div>
      )}
    </Dialog>
  );
}

/** A two-dimensional code (ISO/IEC 18004) of a text. */
function Matrix({ text }: { text: string }) {
  const { size, data } = matrixOf(text, { errorCorrectionLevel: 'M' }).modules;
  const dark = Array.from(data).flatMap((on, i) => (on ? [`M${i % size} ${Math.floor(i / size)}h1v1h-1z`] : []));
  return (
    <svg
      viewBox={`-3 -3 ${size + 6} ${size + 6}`}
      className="size-37.5 shrink-0 rounded-md bg-white"
      role="img"
      aria-label="The address as a pattern for a camera"
      shapeRendering="crispEdges"
    >
      <path d={dark.join('')} fill="#000" />
    </svg>
  );
}
