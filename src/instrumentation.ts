/** Before the first request: database, migrations, and whatever a crash left behind. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME === 'nodejs') await (await import('./server/start')).start();
}
