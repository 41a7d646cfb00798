import Link from 'next/link';
import { notFound } from 'next/navigation';
import { guidePage } from '@/server/guide';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Wide Room: guide' };

/** The guide, and the documents that it leads to. */
export default async function GuidePage({ params }: { params: Promise<{ page?: string[] }> }) {
  const { page = ['guide'] } = await params;
  const html = page.length === 1 ? await guidePage(page[0]!) : null;
  if (html === null) notFound();
  return (
    <main className="guide">
      {page[0] !== 'guide' && (
        <p className="small">
          <Link href="/guide">The guide from its start</Link>
        </p>
      )}
      <article dangerouslySetInnerHTML={{ __html: html }} />
    </main>
  );
}
