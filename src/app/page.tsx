import { redirect } from 'next/navigation';
import { listSessions } from '@/server/sessions';
import { Surround } from '@/places/frame/surround';
import { Welcome } from '@/places/brief/welcome';

export const dynamic = 'force-dynamic';

/** The newest session; without any, the way to make one. */
export default async function Home() {
  const [newest] = await listSessions();
  if (newest) redirect(`/s/${newest.id}/brief`);
  return (
    <Surround>
      <Welcome />
    </Surround>
  );
}
