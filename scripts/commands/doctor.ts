import { alone, DataFolderBusy, openDatabase } from '@/server/database';
import {
  copyFindings,
  folderFindings,
  recordingFindings,
  sessionFindings,
  toolFindings,
  type Finding,
  type Grade,
} from '@/server/doctor';

const SIGNS: Record<Grade, string> = { good: 'good', look: 'look', bad: 'BAD ' };

/** Looks over the whole installation; ends with 1 where something is wrong. */
export async function doctor(): Promise<void> {
  const count: Record<Grade, number> = { good: 0, look: 0, bad: 0 };
  const tell = ({ grade, what, advice }: Finding) => {
    count[grade]++;
    console.log(`${SIGNS[grade]}  ${what}${advice ? `\n      ${advice}` : ''}`);
  };
  for (const look of [folderFindings, toolFindings]) (await look()).forEach(tell);
  if (count.bad === 0) {
    try {
      await openDatabase();
      tell({ grade: 'good', what: 'The database opens.', advice: '' });
      // A PostgreSQL has copies of its own.
      for (const look of [...(alone() ? [copyFindings] : []), recordingFindings]) (await look()).forEach(tell);
      for await (const finding of sessionFindings()) tell(finding);
    } catch (error) {
      if (error instanceof DataFolderBusy)
        tell({
          grade: 'look',
          what: 'The server is running on this data folder.',
          advice: 'Stop it to have database, files and prints looked over.',
        });
      else
        tell({
          grade: 'bad',
          what: `The database does not open: ${(error as Error).message}.`,
          advice: 'wide-room restore puts the newest copy in its place.',
        });
    }
  }
  console.log(`${count.bad} wrong, ${count.look} to look at, ${count.good} good.`);
  if (count.bad > 0) process.exitCode = 1;
}
