import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CustomerGroup, CustomerPage, CustomerPanel, DirectoryPage } from '../../contract/people.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { ownEan13 } from '../../demo/barcodes.ts';
import { addSomebody } from '../testing/people.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  isolde = test.browser();
  await isolde.signIn('8024', 2);
});
afterAll(() => test.stop());

const list = async (query = '') => (await noor.ask<DirectoryPage>('GET', `/people/directory?${query}`)).body;
const names = async (query: string) => (await list(query)).rows.map(({ name }) => name);
const idOf = async (find: string) => (await list(`find=${encodeURIComponent(find)}`)).rows[0]?.id ?? 0;
const page = async (id: number) => (await noor.ask<CustomerPage>('GET', `/people/customers/${id}/page`)).body;
const save = (id: number, { record, version }: Pick<CustomerPage, 'record' | 'version'>, by = noor) =>
  by.ask<CustomerPage & ProblemDetails>('PUT', `/people/customers/${id}`, { record, version });
/** @returns the points that it gave */
async function sellTo(id: number, numbers = ['CLA-0220']): Promise<number> {
  const sale = await ringUp(test, numbers);
  const basket = { ...sale.basket, customer: { id, name: 'somebody' } };
  const { status, body } = await pay(noor, { ...sale, basket });
  expect(status).toBe(200);
  return body.points?.earned ?? 0;
}

describe(`the directory on ${ENGINE}`, () => {
  it('lists everybody by name, page by page, and says how many there are', async () => {
    const all = await list();
    expect(all.count).toBe(30);
    expect(all.rows.map(({ name }) => name)).toEqual(
      all.rows.map(({ name }) => name).toSorted((a, b) => (a.toLowerCase() < b.toLowerCase() ? -1 : 1)),
    );
    expect((await list('page=1')).rows).toEqual([]);
    expect(all.tags).toContain('flute');
    expect(all.groups.map(({ name, count }) => [name, count])).toContainEqual(['Teachers', 4]);
  });

  it('is narrowed by words, group, tag, balances, points, birthday and news', async () => {
    const teachers = (await list()).groups.find(({ name }) => name === 'Teachers')?.id ?? 0;
    expect(await names(`group=${teachers}&sort=name`)).toEqual([
      'Ines Wetherby',
      'Marit Solvane',
      'Mina Castellow',
      'Sana Wickmere',
    ]);
    expect(await names('owes=yes&sort=owes')).toEqual(['Marit Solvane', 'Agnes Tull']);
    expect(await names('credit=yes')).toEqual(['Lou Bramblecote', 'Noah Tarrow']);
    expect(await names('pointsFrom=800&sort=points')).toEqual(['Priya Hallow', 'Lou Bramblecote']);
    expect(await names('pointsFrom=1&pointsTo=500')).toEqual(['Sam Okonedal']);
    expect(await names('born=3&news=yes')).toEqual(['Priya Hallow']);
    expect(await names('tag=violin')).toEqual(['Ines Wetherby']);
    expect(await names(`find=${ownEan13(24, 1)}`)).toEqual(['Priya Hallow']);
    expect(await names('find=ferrisport%20marit')).toEqual(['Marit Solvane']);
    expect((await noor.ask('GET', '/people/directory?sort=weight')).status).toBe(422);
  });

  it('knows who was here last, and who was not seen since a day', async () => {
    const bo = await idOf('bo farrant');
    expect((await page(bo)).seenAt).toBeNull();
    await sellTo(bo);
    expect((await names('sort=seen'))[0]).toBe('Bo Farrant');
    expect(await names('notSince=2026-03-02&find=farrant')).toEqual([]);
    expect(await names('notSince=2099-01-01&find=farrant')).toEqual(['Bo Farrant']);
  });
});

describe(`a record on ${ENGINE}`, () => {
  it('is changed whole, and who changed what stands with it', async () => {
    const id = await idOf('kai lind');
    const { record, version } = await page(id);
    const address = { recipient: '', street: '9 Quay Lane', postcode: '20419', city: 'Ferrisport' };
    const wanted = { ...record, phone: '555-0188', tags: ['drums'], news: true, addresses: [address] };
    const saved = await save(id, { record: wanted, version });
    expect(saved.body.record).toEqual(wanted);
    expect(saved.body.changes.map(({ who, what, was, became }) => [who, what, was, became])).toEqual([
      ['Noor A.', 'Addresses', '', '9 Quay Lane, 20419 Ferrisport'],
      ['Noor A.', 'Tags', '', 'drums'],
      ['Noor A.', 'News', 'no', 'yes'],
      ['Noor A.', 'Phone', record.phone, '555-0188'],
    ]);
    expect(await names('find=0188')).toEqual(['Kai Lindqvarn']);
  });

  it('is not overwritten by somebody who looked at an older one', async () => {
    const id = await idOf('ash verrall');
    const before = await page(id);
    const [one, two] = await Promise.all([
      save(id, { ...before, record: { ...before.record, note: 'one' } }),
      save(id, { ...before, record: { ...before.record, note: 'two' } }, isolde),
    ]);
    expect([one.status, two.status].toSorted()).toEqual([200, 409]);
    const refused = one.status === 409 ? one : two;
    expect([refused.body.type, refused.body.title]).toEqual([
      'changed-meanwhile',
      'Ash Verrall was changed by somebody else meanwhile.',
    ]);
  });

  it('says which field is wrong, and loses nothing', async () => {
    const id = await idOf('elke');
    const before = await page(id);
    const record = { ...before.record, name: ' ', birthMonth: 4, birthDay: 31, tags: ['a; b'] };
    const { status, body } = await save(id, { ...before, record });
    expect(status).toBe(422);
    expect(body.fields?.map(({ field }) => field).toSorted()).toEqual([
      'record.birthDay',
      'record.name',
      'record.tags[0]',
    ]);
    expect((await page(id)).record).toEqual(before.record);
  });
});

describe(`cards on ${ENGINE}`, () => {
  const give = (id: number, code: string, replaces = false, by = noor) =>
    by.ask<ProblemDetails>('POST', `/people/customers/${id}/cards`, { code, replaces });
  const who = (code: string) => noor.ask<CustomerPanel & ProblemDetails>('GET', `/people/cards/${code}`);

  it('come with a new customer, who is then known by them', async () => {
    const id = await addSomebody(noor, 'Cara Newcomer', { card: 'NEW-1' });
    expect((await who('new-1')).body.id).toBe(id);
    const again = await noor.ask<ProblemDetails>('POST', '/people/customers', {
      ...{ company: '', phone: '', mail: '', birthMonth: null, birthDay: null, note: '', anyway: 'yes' },
      name: 'Cara Second',
      card: 'NEW-1',
    });
    expect(again.body.fields).toEqual([{ field: 'card', message: 'This is the card of Cara Newcomer.' }]);
    expect(await names('find=cara%20second')).toEqual([]);
  });

  it('are replaced: the old code stops in the same moment, and says since when', async () => {
    const id = await idOf('cara new');
    expect((await give(id, 'NEW-2', true)).status).toBe(200);
    expect((await who('NEW-2')).body.name).toBe('Cara Newcomer');
    const old = await who('NEW-1');
    expect([old.status, old.body.type]).toEqual([409, 'card-replaced']);
    expect((await give(id, 'NEW-1')).body.fields?.[0]?.message).toBe(
      'This card of Cara Newcomer was stopped and counts no more.',
    );
    const { cards, changes } = await page(id);
    expect(cards.map(({ code, stoppedAt }) => [code, stoppedAt !== null])).toEqual([
      ['NEW-2', false],
      ['NEW-1', true],
    ]);
    expect(changes[0]).toMatchObject({ what: 'Card', was: 'NEW-1', became: 'NEW-2' });
    expect((await noor.ask('DELETE', `/people/customers/${id}/cards/NEW-2`)).status).toBe(200);
    expect((await who('NEW-2')).status).toBe(409);
  });

  it('belong to one customer: of two tills that give one out, one is refused; no code of goods is a card', async () => {
    const [one, two] = [await addSomebody(noor, 'Card One'), await addSomebody(noor, 'Card Two')];
    const answers = await Promise.all([give(one, 'SAME-1'), give(two, 'same-1', false, isolde)]);
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 422]);
    const [code] = await test.house.database.ask((sql) =>
      sql.query<{ code: string }>('select code from item_code limit 1'),
    );
    expect((await give(one, code?.code ?? '')).body.fields?.[0]?.message).toMatch(/^This is the code of /);
  });
});

describe(`groups on ${ENGINE}`, () => {
  const groups = async () => (await noor.ask<CustomerGroup[]>('GET', '/people/groups')).body;
  const add = (group: object) =>
    isolde.ask<{ id: number } & ProblemDetails>('POST', '/people/groups', { rule: null, ...group });

  it('with a rule fill themselves, say why somebody is in, and let go who is not', async () => {
    const id = await addSomebody(noor, 'Rule Follower');
    await sellTo(id);
    const { total } = (await page(id)).months[0] ?? { total: 0 };
    const made = await add({ name: 'Regulars', rule: { spent: total, months: 12 } });
    expect(made.status).toBe(200);
    const { byRule, changes } = await page(id);
    expect(byRule).toEqual([
      { name: 'Regulars', why: expect.stringMatching(/^spent [\d,.]+ or more in 12 months$/) },
    ]);
    expect(changes[0]).toMatchObject({ who: '', what: 'Group by its rule', became: 'Regulars' });
    const seen = { name: 'Regulars', rule: { spent: total, months: 12 } };
    const change = { name: 'Regulars', rule: { spent: total + 1, months: 12 }, seen };
    const put = (group: object) => isolde.ask('PUT', `/people/groups/${made.body.id}`, group);
    expect((await put(change)).status).toBe(200);
    // Who has not seen that does not undo it.
    expect((await put({ ...change, name: 'Regular guests' })).body.type).toBe('changed-meanwhile');
    expect((await page(id)).byRule).toEqual([]);
    expect((await groups()).find(({ name }) => name === 'Regulars')).toMatchObject({ count: 0 });
  });

  it('have one name each, and stay while something is for them', async () => {
    expect((await add({ name: 'teachers' })).body.fields?.[0]?.message).toBe(
      'A group has this name already.',
    );
    const teachers = (await groups()).find(({ name }) => name === 'Teachers');
    const drop = (id = 0) => isolde.ask<ProblemDetails>('DELETE', `/people/groups/${id}`);
    expect((await drop(teachers?.id)).body).toMatchObject({
      type: 'group-in-use',
      title: 'Teachers is in use.',
    });
    const { id } = (await add({ name: 'Short-lived' })).body;
    expect((await drop(id)).status).toBe(200);
    expect((await drop(id)).status).toBe(404);
    expect((await noor.ask('POST', '/people/groups', { name: 'Mine', rule: null })).status).toBe(403);
  });
});

it('a repeat of a write changes nothing', async () => {
  const id = await idOf('gil sorrento');
  const before = await page(id);
  const body = { record: { ...before.record, note: 'Once.' }, version: before.version };
  const key = { 'idempotency-key': newKey() };
  for (let times = 0; times < 2; times++)
    expect((await noor.ask('PUT', `/people/customers/${id}`, body, key)).status).toBe(200);
  expect((await page(id)).version).toBe(before.version + 1);
});
