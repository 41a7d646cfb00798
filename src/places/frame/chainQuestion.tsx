'use client';
import { answerChainQuestion, useChainQuestion } from '@/client';
import { Dialog } from '@/parts';

/** Asked once while recording: the chain that a take goes through is about to change. */
export function ChainQuestion() {
  const { lines, again } = useChainQuestion();
  const leave = () => answerChainQuestion(false);
  return (
    <Dialog
      open={again !== null}
      onClose={leave}
      title={`${lines.join(', ')}: being recorded through this chain`}
      note="The take goes on. Its dry copy is not touched."
    >
      <p>
        A change is heard in the take from this sample on. The take keeps which chain it went through and when, and can
        be made again from the dry copy with one chain.
      </p>
      <div className="mt-4 flex justify-end gap-2">
        <button className="btn btn-bare" onClick={leave}>
          Leave the chain
        </button>
        <button className="btn btn-main" onClick={() => answerChainQuestion(true)}>
          Change it
        </button>
      </div>
    </Dialog>
  );
}
