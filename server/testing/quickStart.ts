/**
 * How a server is started that lives for seconds only: the database's program is not compiled a second time for
 * speed, which takes as long as the rest of the start.
 */
export const QUICK_START: readonly string[] = ['--liftoff-only'];
