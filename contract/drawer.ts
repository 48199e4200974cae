import { array, lazy, number, object, string, type InferType, type ObjectShape } from 'yup';
import { CASH_MOVES, type CashMoveKind } from '../core/drawer/cashMove.ts';
import type { BagPlan } from '../core/drawer/bagPlan.ts';
import type { Pieces } from '../core/drawer/countSheet.ts';
import type { ShiftTender } from '../core/drawer/shiftReport.ts';
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

export const openDrawerSchema = object({ pieces: piecesSchema });

export const countSheetSchema = object({
  pieces: piecesSchema,
  revision: number().integer().min(0).required(),
});

export const closeShiftSchema = object({
  pieces: piecesSchema,
  /** What was expected when the person looked; when sales came after that, nothing is closed. */
  expected: number().integer().required(),
  float: number()
    .integer()
    .min(0, 'The float cannot be below zero.')
    .required('How much stays in the drawer?'),
  bagNumber: string().trim().max(20, 'A bag number has at most 20 characters.').defined(),
  note: string().trim().max(500, 'The note can have at most 500 characters.').defined(),
  /** What was counted of other means of payment, those that the shop counts at close. */
  others: array()
    .of(
      object({
        typeId: number().integer().required(),
        counted: number().integer().min(0, 'A count is not below zero.').required('Type what was counted.'),
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
export type CloseShift = Omit<InferType<typeof closeShiftSchema>, 'pieces'> & { pieces: Pieces };

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

/** The drawer as it stands. */
export interface DrawerState {
  shift: OpenShift | null;
  /** What was left in the drawer by the last shift. */
  left: number;
  movements: CashMovements | null;
  /** What was paid otherwise than in cash. */
  others: ShiftTender[];
  expected: number;
  salesCount: number;
}

export interface ClosedShift {
  id: number;
  number: number;
  variance: number;
  plan: BagPlan;
}

/** Cash that moves without a sale. */
export const cashMoveSchema = object({
  kind: string().oneOf(CASH_MOVE_KINDS).required('In, out, or into the safe?'),
  amount: number().integer().moreThan(0, 'Type an amount above zero.').required('How much?').max(1e11),
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
