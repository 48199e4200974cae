import type { Paper } from '../../core/journal/paper.ts';

/** What a receipt printer is asked to do. */
export interface PrinterJob {
  /** The same number again is the same job: printing it twice must not make two papers. */
  id: number;
  /** Which printer: each till has one, with a cash drawer on it. */
  printer: string;
  paper: Paper;
  /** The paper as text, 42 columns. */
  text: string;
  openDrawer: boolean;
}

/** A receipt printer with a cash drawer. */
export interface PrinterDriver {
  /** Resolves when the paper is out. @throws Error saying in words what keeps it from printing */
  print(job: PrinterJob): Promise<void>;
}
