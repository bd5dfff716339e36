import 'server-only';
import { run } from 'graphile-worker';
import { db } from '../context';
import { quiet } from './logger';
import { tasksFor } from './tasks';

const shared = globalThis as typeof globalThis & { __intonazioneJobs?: Promise<unknown> };

/** Begins to work off the queue in this process; several processes share one queue. */
export function startJobs(): void {
  const url = process.env.DATABASE_URL;
  if (!url || shared.__intonazioneJobs) return;
  shared.__intonazioneJobs = run({
    connectionString: url,
    taskList: tasksFor(db()),
    concurrency: 1,
    maxPoolSize: 3,
    noHandleSignals: true,
    logger: quiet,
    pollInterval: 2000,
  }).catch((reason: unknown) => {
    shared.__intonazioneJobs = undefined;
    process.stderr.write(`job queue: ${reason instanceof Error ? reason.message : String(reason)}\n`);
  });
}
