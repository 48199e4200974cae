import { ValidationError, type Schema } from '../../contract/yup.ts';
import { isKeepable } from '../http/plausible.ts';

/** What is wrong with a record that a line makes, in words. */
export function recordProblems(schema: Schema, record: unknown): string[] {
  if (!isKeepable(JSON.stringify(record))) return ['It holds characters that cannot be kept.'];
  try {
    schema.validateSync(record, { abortEarly: false, disableStackTrace: true });
    return [];
  } catch (error) {
    if (error instanceof ValidationError) return error.errors;
    throw error;
  }
}
