import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { reactive, ref } from 'vue';
import type {
  AccountPage,
  AccountQuery,
  AccountView,
  BankLineView,
  StatementsJob,
  StatementView,
  WantedAccount,
} from '../../contract/accounts.ts';
import { putAccountMoney } from '../../core/counter/accountLines.ts';
import type { Money } from '../../core/money.ts';
import type { AccountFacts } from '../../core/people/account.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** The days of a statement. */
interface Days {
  from: string;
  to: string;
  buyer?: number | null;
}

const asQuery = ({ from, to, buyer }: Days): string =>
  new URLSearchParams({ from, to, ...(buyer ? { buyer: String(buyer) } : {}) }).toString();

/** House accounts: one that is looked at, all of them, their statements, and what came to the bank. */
export const useAccountStore = defineStore('account', () => {
  const basket = useBasketStore();
  const ringUp = useRingUpStore();
  const till = useTillStore();
  /** The account of the customer whose page is open, and whose accounts they buy on. */
  const [looked, showLooked, putLooked] = shown<{
    account: AccountView | null;
    buysOn: AccountFacts[];
  } | null>(null);
  const filter = reactive<Pick<AccountQuery, 'find' | 'show'>>({ find: '', show: 'owing' });
  const page = ref(0);
  const [listed, showListed] = shown<AccountPage | null>(null);
  const [lines, showLines] = shown<BankLineView[] | null>(null);

  const of = (customerId: number) => read<NonNullable<typeof looked.value>>(`/accounts/of/${customerId}`);
  /** The account of a customer, whoever is looked at. */
  const accountOf = async (customerId: number): Promise<AccountView | null> => (await of(customerId)).account;

  let customer = 0;
  async function look(customerId: number): Promise<void> {
    if (customer !== customerId) putLooked(null);
    customer = customerId;
    await showLooked(of(customerId));
  }

  /** Reads the account of a customer again, as long as nobody else is looked at. */
  async function again(customerId: number): Promise<void> {
    if (customer === customerId) await look(customerId);
  }

  /** Opens the account of a customer, or changes it. */
  async function put(customerId: number, wanted: WantedAccount): Promise<void> {
    await write('PUT', `/accounts/of/${customerId}`, wanted);
    await again(customerId);
  }

  /** Rings up money for an account; below zero it is paid out of it. */
  async function ringUpMoney(
    account: { id: number; name: string },
    amount: Money,
    { items = [], countersign }: { items?: readonly number[]; countersign?: string | undefined } = {},
  ): Promise<void> {
    const item = till.facts?.accounts.item;
    if (!item) return;
    await ringUp.caughtUp();
    const next = putAccountMoney(basket.basket, account, amount, { item, id: newId(), items });
    const withApproval = next.lines.map((line) =>
      line.account?.accountId === account.id && countersign !== undefined
        ? { ...line, returnCountersign: countersign }
        : line,
    );
    await basket.change({ ...next, lines: withApproval });
  }

  const payByBank = (id: number, paid: { amount: Money; day: string; words: string; items: number[] }) =>
    write('POST', `/accounts/${id}/payments`, paid);
  const writeOff = (id: number, gone: { amount: Money; words: string; items: number[] }) =>
    write('POST', `/accounts/${id}/write-off`, gone);
  const putOpening = (id: number, owed: { amount: Money; day: string; words: string }) =>
    write('POST', `/accounts/${id}/opening`, owed);

  async function load(): Promise<void> {
    const asked = new URLSearchParams({ ...filter, page: String(page.value) });
    await showListed(read<AccountPage>(`/accounts?${asked.toString()}`));
  }

  const remind = (accountId: number | null) =>
    write<{ sent: number; unreachable: string[] }>('POST', '/accounts/reminders', { accountId });

  const statement = (id: number, days: Days) =>
    read<StatementView>(`/accounts/${id}/statement?${asQuery(days)}`);
  const statementAddress = (id: number, days: Days, kind: 'pdf' | 'csv') =>
    `/api/accounts/${id}/statement.${kind}?${asQuery(days)}`;
  const mailStatement = (id: number, days: Days) =>
    write<{ to: string }>('POST', `/accounts/${id}/statement/mails`, days);

  const makeStatements = (days: Days) => write<StatementsJob>('POST', '/accounts/statements', days);
  const lookAtStatements = (id: string) => read<StatementsJob>(`/accounts/statements/${id}`);

  async function loadLines(): Promise<void> {
    await showLines(read<BankLineView[]>('/accounts/bank'));
  }
  async function takeList(csv: string): Promise<{ added: number; known: number; passed: number }> {
    const taken = await write<{ added: number; known: number; passed: number }>('POST', '/accounts/bank', {
      csv,
    });
    await loadLines();
    return taken;
  }
  async function bookLine(id: number, accountId: number): Promise<void> {
    await write('POST', `/accounts/bank/${id}/book`, { accountId });
    await loadLines();
  }
  async function dropLine(id: number): Promise<void> {
    await write('POST', `/accounts/bank/${id}/drop`);
    await loadLines();
  }

  const follow = (): (() => void) =>
    lookAgain(['people-changed'], () =>
      Promise.all([looked.value && look(customer), listed.value && load()]),
    );

  return {
    looked,
    filter,
    page,
    listed,
    lines,
    look,
    again,
    accountOf,
    put,
    ringUpMoney,
    payByBank,
    writeOff,
    putOpening,
    load,
    remind,
    statement,
    statementAddress,
    mailStatement,
    makeStatements,
    lookAtStatements,
    loadLines,
    takeList,
    bookLine,
    dropLine,
    follow,
  };
});
