import type { Paper } from '../../core/journal/paper.ts';
import type { PrinterSetup } from '../../core/journal/printerSetup.ts';

/** What a receipt printer is asked to do. */
export interface PrinterJob {
  /** The same number again is the same job: printing it twice must not make two papers. */
  id: number;
  /** Which printer: each till has one, with a cash drawer on it. */
  printer: string;
  setup: PrinterSetup;
  paper: Paper;
  /** The paper as text, as wide as the printer. */
  text: string;
  openDrawer: boolean;
}

/** What happens while a paper comes out. */
export interface PrintProgress {
  /**
   * Called before the first byte after which a paper may come out. If the printer then falls silent, nobody
   * but the person in front of it knows whether there is a paper; without the call there is none.
   */
  begins(): Promise<void>;
  /** In words, what keeps a paper that has begun from going on. */
  trouble(words: string): void;
  /** The server stops: nothing is waited for any more. */
  ending: AbortSignal;
}

/** A receipt printer with a cash drawer. */
export interface PrinterDriver {
  /** Resolves when the paper is out. @throws Error saying in words what keeps it from printing */
  print(job: PrinterJob, progress: PrintProgress): Promise<void>;
}
