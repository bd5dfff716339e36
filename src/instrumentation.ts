/** Runs once when a server process starts: it then takes its share of the job queue. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { startJobs } = await import('./server/jobs/runner');
  startJobs();
}
