import { number, object, string, type InferType } from 'yup';
import { RIGHTS, type Right, type Role } from '../core/staff/rights.ts';
import { PIN_PATTERN } from '../core/staff/pinDelay.ts';

const RIGHT_NAMES = Object.keys(RIGHTS) as Right[];

export const signInSchema = object({
  pin: string().required('Type your PIN.').matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
  tillId: number().integer().required('Choose a till.'),
});
export type SignIn = InferType<typeof signInSchema>;

/** A step that a second person approves with their PIN. */
export const countersignSchema = object({
  pin: string().required('Type a PIN.').matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
  right: string().oneOf(RIGHT_NAMES).required(),
  basketId: string().uuid().required(),
  reason: string().trim().required('Say what for.').max(200),
});
export type CountersignRequest = InferType<typeof countersignSchema>;

export interface Countersign {
  id: string;
  /** Who approved it. */
  by: string;
}

/** Who is signed in, at which till. */
export interface Person {
  staffId: number;
  name: string;
  role: Role;
  rights: Right[];
  tillId: number;
}
