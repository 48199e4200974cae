import type { Paper } from '../core/journal/paper.ts';
import {
  CODE_PAGES,
  PRINTER_COLUMNS,
  RAW_PORT,
  type CodePage,
  type PrinterColumns,
  type PrinterSetup,
} from '../core/journal/printerSetup.ts';
import { boolean, mixed, object, string, whole, type InferType } from './yup.ts';

/** Names and addresses as a network knows them. */
const HOST = /^[A-Za-z0-9]([A-Za-z0-9.:-]*[A-Za-z0-9])?$/;

/** The receipt printer of a till, as Setup sends it. */
export const printerSchema = object({
  kind: string()
    .oneOf(['stand-in', 'network'] as const)
    .required(),
  host: string()
    .trim()
    .max(200, 'At most 200 characters.')
    .defined()
    .when('kind', {
      is: 'network',
      then: (host) =>
        host.required('Type the address of the printer, for example 192.168.1.50.').matches(HOST, {
          message: 'An address looks like 192.168.1.50 or receipts.shop.lan.',
          excludeEmptyString: true,
        }),
    }),
  port: whole()
    .min(1, 'A port is a number from 1 to 65535.')
    .max(65_535, 'A port is a number from 1 to 65535.')
    .default(RAW_PORT),
  columns: mixed<PrinterColumns>()
    .oneOf(PRINTER_COLUMNS, 'A printer is 32, 42 or 48 columns wide.')
    .required(),
  codePage: string()
    .oneOf(Object.keys(CODE_PAGES) as CodePage[])
    .required(),
  cutter: boolean().required(),
  pulse: boolean().required(),
  answers: boolean().required(),
});

/** What a person says of a paper that waits or is in doubt. */
export const settleJobSchema = object({
  as: string()
    .oneOf(['printed', 'again', 'dropped'] as const)
    .required(),
});
export type SettleJob = InferType<typeof settleJobSchema>;

/** A paper that has not come out for certain. */
export interface OpenPaper {
  id: number;
  state: 'waiting' | 'printing' | 'doubtful';
  /** What it is, in words: `Receipt 1-0042`. */
  words: string;
  askedAt: string;
}

/** How the printer of a till is. */
export interface PrinterFacts {
  setup: PrinterSetup;
  /** In words, what keeps it from printing. */
  trouble: string | null;
  open: OpenPaper[];
}

/** The printers of all tills, for Setup. */
export interface TillPrinter {
  tillId: number;
  number: number;
  place: string;
  setup: PrinterSetup;
  trouble: string | null;
  waiting: number;
  /** The last change of Setup that this holds. */
  seen: number;
}

/** A paper that came out of the stand-in. */
export interface PrintedPaper {
  id: number;
  openedDrawer: boolean;
  paper: Paper;
}
