import { describe, expect, it } from 'vitest';
import { ApiProblem, formProblems } from './problem.ts';

const refused = (...fields: { field: string; message: string }[]) =>
  new ApiProblem({ type: 'not-valid', title: 'It is not valid.', status: 422, fields });

describe('what is wrong with a form', () => {
  it('stands at its fields, wherever they lie in what was sent', () => {
    const { fields, whole } = formProblems(
      refused(
        { field: 'name', message: 'What is it called?' },
        { field: 'change.price.from', message: 'From which day?' },
        { field: 'record.codes[2]', message: 'The code is missing.' },
        { field: 'buyers[0].limit', message: 'Type an amount.' },
      ),
    );
    expect(fields).toEqual({
      name: 'What is it called?',
      from: 'From which day?',
      codes: 'The code is missing.',
      buyers: 'Type an amount.',
    });
    expect(whole).toBe('');
  });

  it('is said of the whole where no field is named', () => {
    expect(formProblems(refused())).toEqual({ fields: {}, whole: 'It is not valid.' });
    expect(formProblems(new Error('Gone.'))).toEqual({ fields: {}, whole: 'Gone.' });
  });
});
