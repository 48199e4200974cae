import type { CustomerPanel } from '../../contract/people.ts';
import type { Browser } from './browser.ts';

/** Makes somebody known as a till does, also where somebody like them is. @returns their number */
export async function addSomebody(by: Browser, name: string, more: object = {}): Promise<number> {
  const none = {
    company: '',
    phone: '',
    mail: '',
    birthMonth: null,
    birthDay: null,
    note: '',
    anyway: 'yes',
  };
  const { status, body } = await by.ask<CustomerPanel>('POST', '/people/customers', {
    ...none,
    name,
    ...more,
  });
  if (status !== 200) throw new Error(`no customer: ${JSON.stringify(body)}`);
  return body.id;
}
