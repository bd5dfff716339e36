import { Logger } from 'graphile-worker';

/** The queue speaks up only when something is wrong. */
export const quiet = new Logger(() => (level, message) => {
  if (level === 'error') process.stderr.write(`job queue: ${message}\n`);
});
