import { stringify } from 'csv-stringify/sync';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { ImportLine, ImportView } from '../../contract/imports.ts';
import type { DirectoryPage } from '../../contract/people.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { verify } from '../books/verify.ts';
import { ENGINE, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  [noor, isolde] = [test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await isolde.signIn('8024', 2);
});
afterAll(() => test.stop());

const read = async (id: string) => (await isolde.ask<ImportView>('GET', `/people/imports/${id}`)).body;
const lines = async (id: string, outcome = '') =>
  (await isolde.ask<ImportLine[]>('GET', `/people/imports/${id}/lines?outcome=${outcome}`)).body;
const until = (id: string, state: ImportView['state']) =>
  eventually(async () => {
    const view = await read(id);
    expect(view.state).toBe(state);
    return view;
  });
async function send(content: string, id = newKey(), by = isolde): Promise<{ id: string; status: number }> {
  const path = `/people/imports/${id}?name=customers.csv`;
  const { status } = await by.raw('PUT', path, { 'content-type': 'text/csv' }, content);
  return { id, status };
}
const rehearse = async (content: string) => until((await send(content)).id, 'ready');
const accept = (id: string, doubles = false) =>
  isolde.ask<ImportView & ProblemDetails>('POST', `/people/imports/${id}/accept`, { doubles });
const drop = (id: string) => isolde.ask<ImportView & ProblemDetails>('POST', `/people/imports/${id}/drop`);
const count = async () => (await isolde.ask<DirectoryPage>('GET', '/people/directory')).body.count;
const exported = async () => (await isolde.ask<string>('GET', '/people/directory.csv')).body;

const LIST = [
  'Full name;Telephone;E-mail;Born;Tags;Shoe size',
  'Ada Tornquist;555-0301;ada@new.example;1990-02-03;flute;38',
  'Priya Hallow;555-0120;priya.new@mail.example;03-14;flute;39',
  'Somebody Else;555-0120;;;;',
  '"Ben ""Tuba"" Ostrow; senior";555-0302;ben@new.example;;;44',
  ';555-0303;;;;',
  'Cleo Marsh;555-0304;nonsense;;;',
  'ada tornquist;555-0301;;;;',
].join('\r\n');

describe(`a list of customers on ${ENGINE}`, () => {
  it('is rehearsed line by line, and nothing is written of it', async () => {
    const before = [await count(), await exported()];
    const view = await rehearse(LIST);
    expect(view).toMatchObject({
      rows: 7,
      headings: ['Full name', 'Telephone', 'E-mail', 'Born', 'Tags', 'Shoe size'],
      columns: ['name', 'phone', 'mail', 'birthday', 'tags', null],
      counts: { new: 2, changed: 1, same: 0, double: 2, refused: 2 },
    });
    expect((await lines(view.id)).map(({ line, outcome, words }) => [line, outcome, words])).toEqual([
      [2, 'new', ''],
      [
        3,
        'changed',
        'Mail: priya.hallow@mail.example → priya.new@mail.example; Tags: flute, orchestra → flute',
      ],
      [4, 'double', 'Priya Hallow: same phone number'],
      [5, 'new', ''],
      [6, 'refused', 'What is the name?'],
      [7, 'refused', 'A mail address looks like name@place.example.'],
      [8, 'double', 'like line 2'],
    ]);
    expect([await count(), await exported()]).toEqual(before);
    expect((await drop(view.id)).status).toBe(200);
    expect((await accept(view.id)).status).toBe(409);
    expect([await count(), await exported()]).toEqual(before);
  });

  it('is written when somebody accepts it, without those who are likely known', async () => {
    const before = await count();
    const view = await rehearse(LIST);
    expect((await accept(view.id)).status).toBe(200);
    expect(await until(view.id, 'done')).toMatchObject({ written: 7 });
    expect(await count()).toBe(before + 2);
    const ben = (await isolde.ask<DirectoryPage>('GET', '/people/directory?find=tuba')).body.rows;
    expect(ben).toMatchObject([{ name: 'Ben "Tuba" Ostrow; senior', phone: '555-0302' }]);
    // The same list once more: who was new is known, and as the list says.
    const again = await rehearse(LIST);
    expect(again.counts).toMatchObject({ new: 0, changed: 0, same: 3 });
    await accept(again.id, true);
    await until(again.id, 'done');
    expect(await count()).toBe(before + 3);
  });

  it('goes out and comes in again without a change', async () => {
    const view = await rehearse(await exported());
    expect(view.counts).toEqual({ new: 0, changed: 0, same: view.rows, double: 0, refused: 0 });
    expect(view.rows).toBe(await count());
    expect(view.columns.slice(0, 4)).toEqual(['number', 'name', 'company', 'phone']);
    expect(view.columns.slice(-4)).toEqual([null, null, null, null]);
    await accept(view.id);
    const before = await exported();
    await until(view.id, 'done');
    expect(await exported()).toBe(before);
  });

  it('has its columns chosen by hand where its headings say nothing', async () => {
    const view = await rehearse('who,where\nDora Eastlake,dora@new.example\n');
    expect([view.columns, view.counts.refused]).toEqual([[null, null], 1]);
    const choose = (columns: (string | null)[]) =>
      isolde.ask<ImportView>('PUT', `/people/imports/${view.id}/columns`, { columns });
    expect((await choose(['name', 'name'])).status).toBe(422);
    expect((await choose(['name', 'mail'])).body.state).toBe('reading');
    expect((await until(view.id, 'ready')).counts).toMatchObject({ new: 1, refused: 0 });
    await drop(view.id);
  });

  it('comes one at a time, from who may, once; a file that is no list says so', async () => {
    const { id } = await send('Name\nOne Only\n');
    await until(id, 'ready');
    expect((await send('Name\nOne Only\n', id)).status).toBe(200);
    expect((await send('Name\nAnother\n')).status).toBe(409);
    expect((await send('Name\nNobody\n', newKey(), noor)).status).toBe(403);
    await drop(id);
    expect((await send('   ')).status).toBe(422);
    const broken = await send('Name\n"never ends');
    expect((await until(broken.id, 'unreadable')).words).toMatch(/[Qq]uote/);
    expect(await (await isolde.ask<string>('GET', '/people/template.csv')).body).toMatch(
      /^Number,Name,Company/,
    );
  });

  it('leaves out who was changed here since it was accepted', async () => {
    const view = await rehearse('Name,Phone,Note\nEda Changed,555-0311,first\n');
    const none = { company: '', mail: '', birthMonth: null, birthDay: null, note: 'mine' };
    const form = { ...none, name: 'Eda Changed', phone: '555-0311', anyway: 'no' };
    expect((await noor.ask('POST', '/people/customers', form)).status).toBe(200);
    await accept(view.id);
    await until(view.id, 'done');
    expect(await lines(view.id, 'refused')).toMatchObject([
      { line: 2, words: 'It was changed here since the list was accepted.' },
    ]);
    const { rows } = (await isolde.ask<DirectoryPage>('GET', '/people/directory?find=eda')).body;
    expect(rows).toHaveLength(1);
  });

  it('goes on where it was broken off: everybody is in once', async () => {
    const before = await count();
    const many = Array.from({ length: 600 }, (_, at) => [`Many ${at}`, `7${String(at).padStart(5, '0')}`]);
    const view = await rehearse(stringify([['Name', 'Phone'], ...many, ['Many 3', '700003']]));
    expect(view.counts).toMatchObject({ new: 600, double: 1 });
    await accept(view.id, true);
    await eventually(async () => expect((await read(view.id)).written).toBeGreaterThan(0));
    await test.restart();
    await isolde.signIn('8024', 2);
    await noor.signIn('1357', 1);
    expect(await until(view.id, 'done')).toMatchObject({ rows: 601, written: 601 });
    expect(await count()).toBe(before + 601);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });
});
