/** Names that this machine is known by to others, without ports; none unless it was opened to them. */
const known = (): string[] => (process.env.WIDE_ROOM_HOSTS ?? '').split(',').filter(Boolean);

const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/** Why a request is not answered: it calls this machine by another's name, or comes from another site. Null: it is. */
export function turnedAway(request: {
  method: string;
  headers: { get(name: string): string | null };
}): { status: number; message: string } | null {
  const host = request.headers.get('host') ?? '';
  if (!LOCAL.test(host) && !known().includes(host.replace(/:\d+$/, '').toLowerCase()))
    return { status: 421, message: `This server does not answer to "${host}".` };
  const origin = request.headers.get('origin');
  if (origin && (!URL.canParse(origin) || new URL(origin).host !== host))
    return { status: 403, message: 'Requests from other sites are not answered.' };
  return null;
}
