import {
  array,
  boolean,
  lazy,
  mixed,
  number,
  object,
  string,
  whole,
  type InferType,
  type ObjectShape,
  safe,
} from './yup.ts';
import { CASH_MOVES, type CashMoveKind } from '../core/drawer/cashMove.ts';
import type { Explanation } from '../core/drawer/varianceFinder.ts';
import type { BagPlan } from '../core/drawer/bagPlan.ts';
import type { Count, Pieces } from '../core/drawer/countSheet.ts';
import type { ShiftTender } from '../core/drawer/shiftReport.ts';
import type { Paper } from '../core/journal/paper.ts';
import type { CashMovements } from '../core/drawer/expectedCash.ts';

const CASH_MOVE_KINDS = Object.keys(CASH_MOVES) as CashMoveKind[];

/** Counts by denomination; which denominations exist is checked against the currency on the server. */
const piecesSchema = lazy((value: unknown) => {
  const keys = typeof value === 'object' && value !== null ? Object.keys(value) : [];
  const count = number().integer('Pieces are whole numbers.').min(0, 'Pieces cannot be below zero.');
  const shape: ObjectShape = Object.fromEntries(
    keys.map((key) => [key, count.max(100_000, 'That is more than a drawer holds.').required()]),
  );
  return object(shape).required('The count is missing.');
});

/** The whole amount, where it was not counted piece by piece. */
const totalSchema = safe().min(0, 'A count is not below zero.').max(1e11).nullable().default(null);

/**
 * A drawer is opened with what was counted; or as it was left, where the shop allows it. What was brought from the safe
 * (below zero: put into it) is said; what else differs from what was left is a variance.
 */
export const openDrawerSchema = object({
  pieces: piecesSchema,
  fromSafe: safe().min(-1e11).max(1e11).optional().default(undefined),
  asLeft: boolean().optional().default(undefined),
});
export interface OpenDrawer {
  pieces: Pieces;
  fromSafe?: number | undefined;
  asLeft?: boolean | undefined;
}

export const countSheetSchema = object({
  tillId: whole().nullable().default(null),
  pieces: piecesSchema,
  revision: whole().min(0).required(),
});

/** Compares a count that stands with what is expected. */
export const compareSchema = object({
  tillId: whole().nullable().default(null),
  pieces: piecesSchema,
  total: totalSchema,
});
export interface Compare extends Count {
  tillId: number | null;
}

/** What a count is compared with. */
export interface Comparison {
  expected: number;
  others: ShiftTender[];
}

export const closeShiftSchema = object({
  pieces: piecesSchema,
  total: totalSchema,
  /** The pieces that stay, where somebody chose them by hand. */
  keep: lazy((value: unknown) => (value === null || value === undefined ? mixed().nullable() : piecesSchema)),
  /** What was expected when the person looked; when sales came after that, nothing is closed. */
  expected: whole().required(),
  /** Which till's drawer; nothing for one's own. */
  tillId: whole().nullable().default(null),
  /** Baskets that are held go on waiting in the next shift. */
  keepHeld: boolean().default(false),
  /** Somebody who saw it being counted. */
  witness: object({
    name: string().trim().required('The name of the witness is missing.').max(60),
    path: string()
      .max(60_000, 'The signature is too long.')
      .matches(/^[MLCQ\d\s.,-]*$/, 'This is no drawing.')
      .defined(),
  })
    .nullable()
    .default(null),
  float: whole().min(0, 'The float cannot be below zero.').required('How much stays in the drawer?'),
  bagNumber: string().trim().max(20, 'A bag number has at most 20 characters.').defined(),
  note: string().trim().max(500, 'The note can have at most 500 characters.').defined(),
  /** What was counted of other means of payment, those that the shop counts at close. */
  others: array()
    .of(
      object({
        typeId: whole().required(),
        counted: whole().min(0, 'A count is not below zero.').required('Type what was counted.'),
      }),
    )
    .default([]),
  signature: object({
    name: string().trim().required('Sign with your name.').max(60),
    /** SVG path data of the drawn signature on a field of 400 × 120, or empty. */
    path: string()
      .max(60_000, 'The signature is too long.')
      .matches(/^[MLCQ\d\s.,-]*$/, 'This is no drawing.')
      .defined(),
  }).required(),
});
export type CloseShift = Omit<InferType<typeof closeShiftSchema>, 'pieces' | 'keep'> &
  Count & { keep?: Pieces | null | undefined };

/** The open shift of a till. */
export interface OpenShift {
  id: number;
  number: number;
  openedAt: string;
  openedBy: string;
  float: number;
  countSheet: Pieces;
  countRevision: number;
}

/** A drawer that somebody may count and close: their own till's, or at a desk those of others. */
export interface DeskTill {
  tillId: number;
  number: number;
  place: string;
  shift: { number: number; openedAt: string; openedBy: string } | null;
}

/** What has to be dealt with before a shift can be closed. */
export interface LeftOver {
  kind: 'unfinished-sale' | 'terminal' | 'void' | 'held';
  words: string;
  /** Held baskets may wait for another day; money may not. */
  blocks: boolean;
  link: string;
}

/** What terminals have taken in a shift, compared with what was recorded. */
export interface TerminalTotal {
  terminal: string;
  recorded: number;
  /** What the terminal says; nothing where it does not answer. */
  said: number | null;
}

/** The drawer as it stands. */
export interface DrawerState {
  /** Which till's it is. */
  till: { id: number; number: number };
  /** Counted without seeing what is expected, until it is compared. */
  blind: boolean;
  /** The note that the shift before left. */
  noteBefore: string;
  leftOvers: LeftOver[];
  shift: OpenShift | null;
  /** What was left in the drawer by the last shift; nothing while it is counted blindly. */
  left: number | null;
  movements: CashMovements | null;
  /** What was paid otherwise than in cash; nothing while it is counted blindly. */
  others: ShiftTender[];
  /** Nothing while it is counted blindly and not compared yet. */
  expected: number | null;
  salesCount: number;
}

export interface ClosedShift {
  id: number;
  number: number;
  variance: number;
  plan: BagPlan;
}

/** What may explain a difference, and what it rests on. */
export interface VarianceFound {
  explanations: (Explanation & { links: { name: string; to: string }[] })[];
}

export const explainSchema = object({
  tillId: whole().nullable().default(null),
  pieces: piecesSchema,
  total: totalSchema,
  others: array()
    .of(object({ typeId: whole().required(), counted: whole().min(0).required() }))
    .default([]),
});
export type Explain = Omit<InferType<typeof explainSchema>, 'pieces'> & Count;

/** A payment that was recorded as another means than it was. */
export const correctTenderSchema = object({
  saleId: string().uuid().required(),
  position: whole().min(1).required(),
  to: string()
    .oneOf(['cash', 'card'] as const)
    .required(),
  reason: string().trim().required('Say why: it is recorded.').max(120, 'At most 120 characters.'),
});
export type CorrectTender = InferType<typeof correctTenderSchema>;

/** Says later what a difference of a closed shift was. */
export const varianceNoteSchema = object({
  amount: whole().notOneOf([0]).required(),
  reason: string().trim().required('Say what it was.').max(200, 'At most 200 characters.'),
});

/** A closed shift in the history. */
export interface ShiftRow {
  id: number;
  number: number;
  till: number;
  openedAt: string;
  closedAt: string;
  closedBy: string;
  sales: number;
  taken: number;
  refunded: number;
  voids: number;
  discounts: number;
  openings: number;
  expected: number;
  counted: number;
  variance: number;
  /** What was explained of the difference since. */
  explained: number;
  banked: number;
}

/** A closed shift of a till, as it is listed where the next one is opened. */
export type PastShift = Pick<ShiftRow, 'id' | 'number' | 'closedAt' | 'closedBy' | 'variance' | 'banked'>;

/** Shifts of a time, with what they come to. */
export interface ShiftHistory {
  rows: ShiftRow[];
  sums: Pick<
    ShiftRow,
    'sales' | 'taken' | 'refunded' | 'voids' | 'discounts' | 'openings' | 'variance' | 'banked'
  >;
  taxes: { name: string; rate: number; base: number; tax: number }[];
  tenders: { name: string; count: number; amount: number }[];
  reductions: { kind: string; reason: string; person: string; count: number; amount: number }[];
  moves: { kind: 'in' | 'out' | 'drop'; reason: string; count: number; amount: number }[];
}

/** Cash that moves without a sale. */
export const cashMoveSchema = object({
  kind: string().oneOf(CASH_MOVE_KINDS).required('In, out, or into the safe?'),
  amount: whole().moreThan(0, 'Type an amount above zero.').required('How much?').max(1e11),
  reason: string().trim().required('Say why: it is recorded.').max(120, 'At most 120 characters.'),
  person: string().trim().max(60, 'At most 60 characters.').defined(),
  countersign: string().uuid(),
});
export type CashMove = InferType<typeof cashMoveSchema>;

/** Opens the drawer without a sale. */
export const drawerOpeningSchema = object({
  reason: string().trim().required('Say why: it is recorded.').max(120, 'At most 120 characters.'),
  countersign: string().uuid(),
});

/** Hands the drawer to the next person without closing it. */
export const handOverSchema = object({
  pieces: piecesSchema,
  toStaffId: whole().required('To whom?'),
  note: string().trim().max(500, 'The note can have at most 500 characters.').defined(),
});
export type HandOver = Omit<InferType<typeof handOverSchema>, 'pieces'> & { pieces: Pieces };

/** A closed shift with what became of it since. */
export interface ClosedShiftView {
  id: number;
  number: number;
  till: number;
  closedBy: string;
  closedAt: string;
  variance: number;
  explained: number;
  notes: { at: string; amount: number; reason: string; by: string }[];
  handovers: { at: string; from: string; to: string; counted: number; expected: number; note: string }[];
  /** What was counted each time that it was compared. */
  comparisons: number[];
  paper: Paper;
}
