'use client';
import { clsx } from 'clsx';
import { toast } from 'sonner';
import { edit, freeze, thawEdits, useFreezing, useTransport, useDocPart, docNow } from '@/client';
import { feeding, freezeFault, isFresh, type Bus, type SessionDoc, type Track } from '@/core/session';
import { Row } from './inspectorRow';

const wordsOf = (doc: SessionDoc, node: Track | Bus, within: Bus | undefined): string => {
  if (isFresh(doc, node)) return 'plays from its file';
  if (node.frozen) return 'changed since';
  return within ? `within ${within.name}` : 'no';
};

/** The frozen bus that plays the sound of a node from its file, if there is one. */
const playedBy = (doc: SessionDoc, node: Track | Bus): Bus | undefined =>
  doc.buses.find((b) => b !== node && b.frozen && isFresh(doc, b) && feeding(doc, b.id).includes(node));

/** Whether a node or bus plays from a file of its sound behind the chain, and what makes or ends that. */
export function FrozenRow({ node }: { node: Track | Bus }) {
  const share = useFreezing((s) => s.shares[node.id]);
  const recording = useTransport((s) => s.state === 'recording');
  const fresh = useDocPart((doc) => isFresh(doc, node));
  const fault = useDocPart((doc) => freezeFault(doc, node));
  const within = useDocPart((doc) => playedBy(doc, node));
  const words = useDocPart((doc) => wordsOf(doc, node, within));
  const making = share !== undefined;
  const make = () =>
    freeze(node.id).catch((error: Error) => toast.error(error.message, { id: `freeze-${node.id}`, duration: 8000 }));
  const why = recording ? 'While something is recorded nothing is frozen or thawed.' : (fault ?? undefined);
  return (
    <Row label="Frozen">
      <span className="flex items-center gap-1">
        <span className={clsx('whitespace-nowrap', node.frozen && !fresh ? 'text-warn' : 'text-quiet')}>
          {making ? `being made, ${Math.round(share * 100)} %` : words}
        </span>
        {!fresh && (
          <button
            className="btn btn-bare"
            aria-label={node.frozen ? 'Freeze again' : undefined}
            disabled={making || recording || fault !== null}
            title={why ?? 'Makes a file of its sound behind the chain and plays that, until something changes'}
            onClick={() => void make()}
          >
            {node.frozen ? 'Again' : 'Freeze'}
          </button>
        )}
        {node.frozen && (
          <button
            className="btn btn-bare"
            disabled={recording}
            title={why ?? 'Plays from what feeds it, through its chain, again'}
            onClick={() => edit(...thawEdits(docNow(), [node.id]))}
          >
            Thaw
          </button>
        )}
      </span>
    </Row>
  );
}
