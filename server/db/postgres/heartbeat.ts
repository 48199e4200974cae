/** So often the database's server is asked whether it is there, in milliseconds. */
export const BEAT_MS = 5_000;
/** Who has not answered for so long is not heard any more: what was asked of them would wait for ever. */
export const SILENT_MS = 30_000;

/**
 * Notices a server that falls silent without closing its line: power, cable, a frozen machine. Statements may take
 * as long as they like, for they are asked on other connections than this.
 * @param ask something that is answered at once
 * @param onSilent told once, when no answer has come for `SILENT_MS`
 * @returns what ends it
 */
export function watchHeartbeat(ask: () => Promise<unknown>, onSilent: (message: string) => void): () => void {
  let asked: number | null = null;
  const beat = setInterval(() => {
    const now = performance.now();
    if (asked !== null && now - asked >= SILENT_MS) {
      clearInterval(beat);
      onSilent(`PostgreSQL has not answered for ${SILENT_MS / 1000} seconds.`);
    } else if (asked === null) {
      asked = now;
      // A line that is closed says so by itself.
      void ask().then(
        () => (asked = null),
        () => (asked = null),
      );
    }
  }, BEAT_MS);
  return () => clearInterval(beat);
}
