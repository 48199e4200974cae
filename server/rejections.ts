import type { Logger } from 'pino';

/** A rejected promise that nobody waits for ends in the log with its cause: neither in silence nor in a crash. */
export function logRejections(log: Pick<Logger, 'error'>, on: NodeJS.EventEmitter = process): () => void {
  const hear = (reason: unknown) =>
    log.error({ err: reason }, 'a promise was rejected that nobody waits for');
  on.on('unhandledRejection', hear);
  return () => void on.off('unhandledRejection', hear);
}
