/** An error as RFC 9457 describes it, with a sentence for people and, for forms, the fields. */
export interface ProblemDetails {
  /** A short name for the kind of problem, e.g. `no-open-drawer`. */
  type: string;
  /** What is wrong, in one sentence. */
  title: string;
  status: number;
  /** What to do about it. */
  detail?: string;
  /** What is wrong with which field of a form. */
  fields?: { field: string; message: string }[];
  /** Figures or things that belong to the problem. */
  data?: unknown;
}
