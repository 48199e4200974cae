/** Something that is recomputed from what happened, and compared with what is kept. */
export interface Check {
  name: string;
  /** Gives `what`, `kept` and `recomputed` for everything that differs. */
  sql: string;
  /** It can be asked for some days at a time, from `$1` to `$2`: all days together are many rows. */
  daily?: true;
}
