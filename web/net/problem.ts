import type { ProblemData, ProblemDetails } from '../../contract/problem.ts';

/** What the server refused, with its words. */
export class ApiProblem extends Error {
  constructor(readonly details: ProblemDetails) {
    super(details.title);
  }

  /** Title and advice in one text. */
  get words(): string {
    return [this.details.title, this.details.detail].filter(Boolean).join(' ');
  }

  /** What belongs to problems of some kinds; nothing where it is another one. */
  data<Type extends keyof ProblemData>(...types: Type[]): ProblemData[Type] | undefined {
    const mine = types.some((type) => type === this.details.type);
    return mine ? (this.details.data as ProblemData[Type]) : undefined;
  }

  /** What is wrong with a field of the form that was sent. */
  field(name: string): string | undefined {
    return this.details.fields?.find(({ field }) => field === name)?.message;
  }
}

/** The server could not be reached, or its answer got lost: whether it did what was asked is unknown. */
export class Unreachable extends Error {
  /** By this name it is known when it comes out of a thread. */
  override readonly name = 'Unreachable';

  /** @param changes whether something was to be changed: the same that is asked again is done once, see `write` */
  constructor(changes = true) {
    super(`The server does not answer.${changes ? ' Nothing is lost: do it again, it is done once.' : ''}`);
  }
}

/** Words for people, whatever went wrong. */
export function problemWords(error: unknown): string {
  if (error instanceof ApiProblem) return error.words;
  return error instanceof Error ? error.message : 'Something went wrong.';
}

/** Whether something was refused because another one has changed it meanwhile. */
export const wasChanged = (error: unknown): boolean =>
  error instanceof ApiProblem && error.details.type === 'changed-meanwhile';

/**
 * What is wrong with a form that was sent: by its fields, under the last part of their names up to a list
 * (`record.codes[0]` is `codes`); with the whole, where no field is named.
 */
export function formProblems(error: unknown): { fields: Record<string, string>; whole: string } {
  const said = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
  const name = (field: string) => field.replace(/\[.*/, '').split('.').at(-1) ?? field;
  return {
    fields: Object.fromEntries(said.map(({ field, message }) => [name(field), message])),
    whole: said.length === 0 ? problemWords(error) : '',
  };
}

/** What is wrong with each line of a form that was sent, under whole names (`lines[0].quantity`). */
export const lineProblems = (error: unknown): Record<string, string> =>
  Object.fromEntries(
    (error instanceof ApiProblem ? (error.details.fields ?? []) : []).map(({ field, message }) => [
      field,
      message,
    ]),
  );

/** The same where a form asks one thing: what is wrong with its field comes first. */
export function formWords(error: unknown): string {
  return (error instanceof ApiProblem && error.details.fields?.[0]?.message) || problemWords(error);
}
