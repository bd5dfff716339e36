import 'server-only';
import { run, type Runner } from 'graphile-worker';
import { db } from '../context';
import { beat, BEAT, takeOver } from './beat';
import { quiet } from './logger';
import { CRONTAB, tasksFor } from './tasks';

/** How long after the queue could not be begun, or broke off, it is tried again. */
const AGAIN_MS = 3000;

/** This process's share in working off the queue, from when there is a database until the process ends. */
class Jobs {
  state: 'starting' | 'running' | 'stopped' = 'starting';
  private runner: Runner | null = null;
  private readonly workers = new Set<string>();
  private complained = false;

  constructor(private readonly url: string) {
    void this.live();
    const beating = setInterval(() => void this.round(), BEAT.every);
    beating.unref();
    // What is under way is finished; what waits is left to other processes.
    process.once('SIGTERM', () => {
      this.state = 'stopped';
      void this.runner?.stop().catch(() => undefined);
    });
  }

  private async live(): Promise<void> {
    while (this.state !== 'stopped') {
      try {
        const runner = await run({
          connectionString: this.url,
          taskList: tasksFor(db()),
          crontab: CRONTAB,
          concurrency: 1,
          maxPoolSize: 3,
          noHandleSignals: true,
          logger: quiet,
          pollInterval: 2000,
        });
        runner.events.on('worker:create', ({ worker }) => this.workers.add(worker.workerId));
        runner.events.on('job:start', ({ worker }) => {
          this.workers.add(worker.workerId);
          void this.round();
        });
        this.runner = runner;
        this.state = 'running';
        this.complained = false;
        await runner.promise;
      } catch (reason) {
        // Once: a database that is away for a night fills no log.
        if (!this.complained)
          process.stderr.write(`job queue: ${reason instanceof Error ? reason.message : String(reason)}\n`);
        this.complained = true;
      }
      this.runner = null;
      this.workers.clear();
      if (this.stopped()) return;
      this.state = 'starting';
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS).unref());
    }
  }

  private stopped(): boolean {
    return this.state === 'stopped';
  }

  private async round(): Promise<void> {
    if (this.state !== 'running') return;
    try {
      await beat(db(), [...this.workers]);
      await takeOver(db());
    } catch {
      // The database is away: the runner tells of it.
    }
  }
}

const shared = globalThis as typeof globalThis & { __intonazioneJobs?: Jobs };

/** Begins to work off the queue in this process; several processes share one queue. */
export function startJobs(): void {
  const url = process.env.DATABASE_URL;
  if (url) shared.__intonazioneJobs ??= new Jobs(url);
}

/** How this process stands to the queue. */
export const jobsState = (): Jobs['state'] => shared.__intonazioneJobs?.state ?? 'stopped';
