import type { House, Sender } from './house.ts';

/** What is sent, and how. */
interface Sending {
  /** What it is called in the log. */
  what: string;
  /** Not sooner than so many milliseconds it is looked again, however the clocks run. */
  soonestMs: number;
  /** Sends what is due; leaves off where `stopped` says so. One that cannot be sent does not hold up the others. */
  sendDue(stopped: () => boolean): Promise<void>;
  /** When the next one is due, if any waits. */
  nextDue(): Promise<Date | null>;
}

/** After this it is looked again in any case: timers count no more than 24 days, and clocks are put right. */
const LONGEST_MS = 24 * 60 * 60_000;

/** Sends what is stored as waiting, also after a restart, one run after the other. */
export function startSender(
  { clock, log }: Pick<House, 'clock' | 'log'>,
  { what, soonestMs, sendDue, nextDue }: Sending,
): Sender {
  let stopped = false;
  let running: Promise<void> = Promise.resolve();
  let timer: NodeJS.Timeout | undefined;
  /** A run that has not begun yet: whoever wakes the sender meanwhile is served by it. */
  let waiting = false;

  async function run(): Promise<void> {
    await sendDue(() => stopped);
    const next = await nextDue();
    if (next === null || stopped) return;
    clearTimeout(timer);
    const wait = Math.min(next.getTime() - clock.now().getTime(), LONGEST_MS);
    timer = setTimeout(() => sender.wake(), Math.max(wait, soonestMs));
    timer.unref();
  }

  const sender: Sender = {
    wake() {
      if (stopped || waiting) return;
      waiting = true;
      running = running
        .then(() => {
          waiting = false;
          return run();
        })
        .catch((error: unknown) => log.error({ err: error }, `${what} stopped`));
    },
    async stop() {
      stopped = true;
      clearTimeout(timer);
      await running;
    },
  };
  return sender;
}
