import { array, object, string, whole, safe, type InferType } from './yup.ts';
import { RIGHTS, type Right, type Role } from '../core/staff/rights.ts';
import { PIN_PATTERN } from '../core/staff/pinDelay.ts';

const RIGHT_NAMES = Object.keys(RIGHTS) as Right[];

const figure = () => safe().nullable().defined();

export const signInSchema = object({
  pin: string().required('Type your PIN.').matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
  tillId: whole().required('Choose a till.'),
});
/** Whose sessions end. */
export const signOutEverywhereSchema = object({ staffId: whole().required() });

export type SignIn = InferType<typeof signInSchema>;

/** A step that a second person approves with their PIN. */
export const countersignSchema = object({
  pin: string().required('Type a PIN.').matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
  right: string().oneOf(RIGHT_NAMES).required(),
  /** The basket, sale or cash move that it is for. */
  basketId: string().uuid().required(),
  /** Exactly what is approved. */
  covers: array()
    .of(
      object({
        subject: string().min(1).max(160).required(),
        from: figure(),
        to: figure(),
        unit: string()
          .oneOf(['money', 'rate', 'quantity'] as const)
          .required(),
        amount: figure().min(0),
      }),
    )
    .min(1, 'Say what is to be approved.')
    .max(500)
    .required('Say what is to be approved.'),
  reason: string().trim().required('Say what for.').max(200),
});
export type CountersignRequest = InferType<typeof countersignSchema>;

/** What somebody with more rights approved, and what for, as the refusal said it. */
export const approvalSchema = object({
  about: string().uuid().required(),
  countersign: string().uuid().required(),
})
  .nullable()
  .default(null);
export type WantedApproval = NonNullable<InferType<typeof approvalSchema>>;

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
  /** Which signing in it is: approvals are for the session that asked for them. */
  sessionId: number;
}
