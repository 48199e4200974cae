/** Something that is recomputed from what happened, and compared with what is kept. */
export interface Check {
  name: string;
  /** Gives `what`, `kept` and `recomputed` for everything that differs. */
  sql: string;
}
