import { number, object, string, type InferType } from 'yup';
import type { Right, Role } from '../core/staff/rights.ts';
import { PIN_PATTERN } from '../core/staff/pinDelay.ts';

export const signInSchema = object({
  pin: string().required('Type your PIN.').matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
  tillId: number().integer().required('Choose a till.'),
});
export type SignIn = InferType<typeof signInSchema>;

/** Who is signed in, at which till. */
export interface Person {
  staffId: number;
  name: string;
  role: Role;
  rights: Right[];
  tillId: number;
}
