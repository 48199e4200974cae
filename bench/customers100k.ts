import { customerWords } from '../core/people/customer.ts';
import { fold } from '../core/words.ts';
import { seeded } from '../demo/random.ts';
import type { Database } from '../server/db/database.ts';
import type { Serving } from '../server/serve.ts';
import { browserOf } from '../server/testing/browser.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, type Figure } from './measure.ts';

const CUSTOMERS = 100_000;
const AT_ONCE = 10_000;
const ROUNDS = 20;
const SYLLABLES = 'ka ri mo tel ban dor fi sa lun ve por qui ne gar hol stra wen jo zu bel'.split(' ');

/**
 * Finding somebody at the Counter and in the journal, and the list of customers, through HTTP among 100,000; the floor
 * reads one page of the list in plain SQL.
 */
export const customers100k = (): Promise<Figure[]> => onBothEngines(measure);

const syllable = (nth: number): string => SYLLABLES[Math.abs(nth) % SYLLABLES.length] ?? '';

const QUESTIONS: Readonly<Record<string, (round: number) => string>> = {
  'one letter': (round) => `people/customers?find=${syllable(round).slice(0, 1)}`,
  names: (round) => `people/customers?find=${syllable(round)}${syllable(3 * round)} ${syllable(7 * round)}`,
  'end of a phone': (round) => `people/customers?find=${1000 + Math.abs(round) * 37}`,
  nobody: () => 'people/customers?find=xyzzy',
  list: () => 'people/directory',
  'list found': (round) =>
    `people/directory?find=${syllable(round)}${syllable(3 * round)} ${syllable(7 * round)}`,
  'list by what is owed': () => 'people/directory?sort=owes',
  'list of a group': () => 'people/directory?group=1',
  'journal by a name': (round) => `journal/sales?find=${syllable(round)}${syllable(3 * round)}`,
};

async function measure(serving: Serving, engine: string): Promise<Figure[]> {
  const { database } = serving.house;
  await fill(database);
  const browser = browserOf(() => serving.url);
  await browser.signIn('8024', 1);
  const figures: Figure[] = [];
  for (const [what, addressOf] of Object.entries(QUESTIONS)) {
    const [through, bare] = await inTurn(
      ROUNDS,
      async (round) => {
        const { status, body } = await browser.ask('GET', `/${addressOf(round)}`);
        if (status !== 200) throw new Error(`${what}: ${status} ${JSON.stringify(body)}`);
      },
      () => onePage(database),
    );
    figures.push(
      figure(`customers-100k ${what} ${engine}`, 'ms median', median(through), median(bare), ROUNDS),
    );
  }
  return figures;
}

async function onePage(database: Database): Promise<void> {
  await database.ask((sql) =>
    sql.query('select * from customer where not gone order by sort_name, id limit 50'),
  );
}

/** Customers with made-up names, telephones and mail; some owe, and some are in a group. */
async function fill(database: Database): Promise<void> {
  const random = seeded(3);
  const word = (syllables: number) =>
    Array.from({ length: syllables }, () => syllable(Math.floor(random() * SYLLABLES.length))).join('');
  const made = Array.from({ length: CUSTOMERS }, (_, nth) => {
    const [first, last] = [word(3), word(4)];
    const facts = {
      name: `${first} ${last}`,
      company: '',
      phone: `555 ${1_000_000 + nth * 37}`,
      mail: `${first}.${last}${nth}@post.example`,
    };
    return { ...facts, words: customerWords(facts), sort_name: fold(facts.name) };
  });
  for (let at = 0; at < CUSTOMERS; at += AT_ONCE) {
    await database.write((sql) =>
      sql.query(
        `insert into customer (name, phone, mail, words, sort_name, added_at)
         select name, phone, mail, words, sort_name, now() from json_populate_recordset(null::customer, $1::json)`,
        [JSON.stringify(made.slice(at, at + AT_ONCE))],
      ),
    );
  }
  await database.script(
    `insert into account_balance (account, subject, balance)
       select 'receivable', 'customer:' || id, 1000 from customer where id % 100 = 0 on conflict do nothing;
     insert into customer_membership (customer_id, group_id)
       select id, 1 from customer where id % 30 = 0 on conflict do nothing;
     analyze customer; analyze account_balance; analyze customer_membership;`,
  );
}
