/** Columns that receipt printers have: 58 mm, and 80 mm with two sizes of letters. */
export const PRINTER_COLUMNS = [32, 42, 48] as const;
export type PrinterColumns = (typeof PRINTER_COLUMNS)[number];

/** Code pages that receipt printers commonly have, by the letters that a shop knows. */
export const CODE_PAGES = {
  cp858: 'Western Europe, with € (858)',
  cp437: 'United States (437)',
  cp852: 'Central Europe (852)',
  cp775: 'Baltic (775)',
  cp857: 'Turkish (857)',
  cp737: 'Greek (737)',
  cp866: 'Cyrillic (866)',
  windows1252: 'Western (Windows 1252)',
} as const;
export type CodePage = keyof typeof CODE_PAGES;

/** What a receipt printer can do. */
export interface PrinterAbilities {
  columns: PrinterColumns;
  codePage: CodePage;
  cutter: boolean;
  /** Whether a cash drawer hangs on it, which a pulse opens. */
  pulse: boolean;
}

/** The receipt printer of a till: the stand-in on the screen, or a printer on the network. */
export interface PrinterSetup extends PrinterAbilities {
  kind: 'stand-in' | 'network';
  host: string;
  port: number;
  /** Whether it says how it is; one that does not is trusted to print what it was sent. */
  answers: boolean;
}

/** The port on which receipt printers take raw bytes. */
export const RAW_PORT = 9100;

/** A till whose printer nobody has chosen yet. */
export const STAND_IN: PrinterSetup = {
  kind: 'stand-in',
  host: '',
  port: RAW_PORT,
  columns: 42,
  codePage: 'cp858',
  cutter: true,
  pulse: true,
  answers: true,
};
