import { lookUpSchema } from './goods.ts';
import { array, object, safe, string, whole, type InferType } from './yup.ts';

const MOST_LINES = 500;

/** Goods that are looked for, to be sent from a place. */
export const sendableSchema = lookUpSchema.shape({ place: whole().required('From where?') });

/** Goods that are to go from a place to another. */
export const newTransferSchema = object({
  fromPlace: whole().required('From where?'),
  toPlace: whole().required('To where?'),
  words: string().trim().max(200, 'At most 200 characters.').default(''),
  lines: array()
    .of(
      object({
        itemId: whole().required(),
        quantity: safe().min(1, 'How many?').max(2_000_000_000, 'That is too much.').required('How many?'),
        serials: array().of(string().trim().required().max(40)).max(500, 'At most 500 at once.').default([]),
      }),
    )
    .min(1, 'Nothing is to go.')
    .max(MOST_LINES, `At most ${MOST_LINES} lines.`)
    .required(),
});
export type WantedTransfer = InferType<typeof newTransferSchema>;

export const transferVersionSchema = object({ version: whole().required() });

/** What came, line by line, in their order. */
export const arrivedSchema = object({
  version: whole().required(),
  lines: array().of(safe().min(0, 'Zero or more.').required('How many came?')).required(),
});
export type Arrived = InferType<typeof arrivedSchema>;

export type TransferState = 'asked' | 'sent' | 'arrived' | 'cancelled';

/** What a transfer is called. */
export const transferName = (id: number): string => `Transfer ${id}`;

export interface TransferView {
  id: number;
  version: number;
  state: TransferState;
  fromPlace: number;
  from: string;
  toPlace: number;
  to: string;
  words: string;
  askedAt: string;
  askedBy: string;
  sentAt: string | null;
  arrivedAt: string | null;
  lines: {
    itemId: number;
    number: string;
    name: string;
    unit: string;
    decimals: number;
    quantity: number;
    arrived: number;
    serials: string[];
    /** On hand where it is sent from. */
    there: number;
  }[];
}

export interface TransfersPage {
  transfers: TransferView[];
  /** How many fit, on all pages. */
  count: number;
  places: { id: number; name: string; here: boolean }[];
}

/** Something that can be sent, as its code or words mean it. */
export interface SendableItem {
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  serials: boolean;
  /** The unit whose serial number was scanned. */
  serial: string | null;
  there: number;
}
