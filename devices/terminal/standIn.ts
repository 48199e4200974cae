import { randomInt, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  TerminalBusy,
  TerminalRefusal,
  TerminalUnreachable,
  type CardEntry,
  type CardFacts,
  type SettlementBatch,
  type TerminalAnswer,
  type TerminalDriver,
} from './driver.ts';
import type { TerminalFace, TerminalPress, TerminalStep } from './face/face.ts';
import { SAMPLE_CARDS, type BankAnswer } from './face/sampleCards.ts';

interface Kept extends TerminalFace {
  answers: TerminalAnswer[];
  refunds: string[];
  settled: string[];
  batches: SettlementBatch[];
}

export interface TerminalStandIn extends TerminalDriver {
  face(serial: string): TerminalFace;
  /** @throws TerminalRefusal when that cannot be pressed now */
  press(serial: string, press: TerminalPress): TerminalFace;
  /** Takes a new terminal out of its box. @returns its face, with the code to pair it by */
  unpack(): TerminalFace;
  /** Whether a terminal of this serial number was unpacked or used. */
  has(serial: string): boolean;
  /** How many there are. */
  count(): number;
}

const MOST_ANSWERS = 5_000;
/** What the bank keeps of each payment: parts per million, and minor units. */
const FEE_RATE = 16_000;
const FEE_EACH = 10;
const WRONG_PINS = 3;

/** What a till is told of the step that the customer is at. */
const STEP_WORDS: Readonly<Record<TerminalStep, string>> = {
  idle: 'The terminal is ready.',
  'round-up': 'The customer is asked about rounding up.',
  tip: 'The customer chooses a tip.',
  card: 'Waiting for the card.',
  'key-card': 'Waiting for the number to be keyed.',
  pin: 'The customer types the PIN.',
  signature: 'The customer signs.',
  working: 'The bank is asked.',
  result: '',
};

const DECLINED: Partial<Record<BankAnswer, string>> = {
  'no-funds': 'Not enough money on the card.',
  expired: 'The card has expired.',
  blocked: 'The card is blocked.',
  'over-limit': 'Above the limit of the card.',
};

/**
 * Card terminals that stand in for real ones: each has a face that is pressed on a page, a memory of its own that
 * outlives the server, and a connection that can fail.
 * @param folder where their memories are, one file each
 */
export function terminalStandIn(folder: string, now: () => Date): TerminalStandIn {
  mkdirSync(folder, { recursive: true });
  const known = new Map<string, Kept>();
  const wrongPins = new Map<string, number>();
  const hearers = new Set<(serial: string, answer: TerminalAnswer) => void>();
  const fileOf = (serial: string) => join(folder, `${serial.replace(/[^\w-]/g, '_')}.json`);

  function open(serial: string): Kept {
    const held = known.get(serial) ?? recall(serial);
    known.set(serial, held);
    return held;
  }

  function recall(serial: string): Kept {
    try {
      const kept = JSON.parse(readFileSync(fileOf(serial), 'utf8')) as Kept;
      // The payment on the screen is one of those that are remembered, not a copy of it.
      const { answer } = kept;
      if (answer)
        kept.answer = kept.answers.find(({ reference }) => reference === answer.reference) ?? answer;
      return kept;
    } catch {
      return {
        serial,
        pairingCode: null,
        step: 'idle',
        request: null,
        answer: null,
        line: 'good',
        bank: 'approve',
        partialRate: 500_000,
        answers: [],
        refunds: [],
        settled: [],
        batches: [],
      };
    }
  }

  function keep(terminal: Kept): void {
    const file = fileOf(terminal.serial);
    writeFileSync(`${file}.new`, JSON.stringify(terminal));
    renameSync(`${file}.new`, file);
  }

  function reach(serial: string): Kept {
    const terminal = open(serial);
    if (terminal.line === 'lost') throw new TerminalUnreachable('The card terminal cannot be reached.');
    return terminal;
  }

  /** The bank behind all terminals knows every card that was used on any of them. */
  function cardOf(token: string): CardFacts | null {
    for (const terminal of all()) {
      const card = terminal.answers.find((answer) => answer.card?.token === token)?.card;
      if (card) return card;
    }
    return null;
  }

  const all = (): Kept[] =>
    readdirSync(folder)
      .filter((name) => name.endsWith('.json'))
      .map((name) => open(name.slice(0, -'.json'.length)));

  const answerTo = (terminal: Kept, reference: string) =>
    terminal.answers.find((answer) => answer.reference === reference);

  function tell(terminal: Kept, answer: TerminalAnswer): void {
    if (terminal.line === 'good') for (const hear of hearers) hear(terminal.serial, { ...answer });
  }

  /** The payment is decided: remembered first, then said, if the line is good. */
  function decide(
    terminal: Kept,
    result: Partial<TerminalAnswer> & Pick<TerminalAnswer, 'state' | 'words'>,
  ): void {
    if (!terminal.answer) return;
    Object.assign(terminal.answer, { at: now().toISOString() }, result);
    terminal.step = 'result';
    keep(terminal);
    tell(terminal, terminal.answer);
  }

  function bankDecides(terminal: Kept): void {
    const { answer, request, bank } = terminal;
    if (!answer || !request) return;
    const words = DECLINED[bank];
    if (words) return decide(terminal, { state: 'declined', words, amount: 0, tip: 0, roundUp: 0 });
    const part = Math.floor((request.amount * terminal.partialRate) / 1_000_000);
    const approval = String(randomInt(100_000, 1_000_000));
    if (bank === 'partial' && part > 0 && part < request.amount) {
      return decide(terminal, {
        state: 'approved',
        words: 'A part was approved.',
        amount: part,
        tip: 0,
        roundUp: 0,
        approval,
      });
    }
    decide(terminal, { state: 'approved', words: 'Approved.', amount: request.amount, approval });
  }

  /** What comes after the customer has done a step. */
  function goOn(terminal: Kept, done: TerminalStep): void {
    const { request } = terminal;
    if (!request) return;
    const steps: TerminalStep[] = [];
    if (request.roundUp) steps.push('round-up');
    if (request.tips.length > 0) steps.push('tip');
    steps.push(request.notPresent ? 'key-card' : 'card');
    terminal.step = steps[steps.indexOf(done) + 1] ?? 'working';
    if (terminal.step === 'card' && request.token !== null) terminal.step = 'working';
    if (terminal.step === 'working') work(terminal);
    else keep(terminal);
  }

  /** Asks the bank. Where the answer comes late, it waits for `answer-now`. */
  function work(terminal: Kept): void {
    terminal.step = 'working';
    if (terminal.line === 'good' || terminal.line === 'lost') bankDecides(terminal);
    else keep(terminal);
  }

  function take(terminal: Kept, entry: CardEntry, card: CardFacts): void {
    if (!terminal.answer) return;
    Object.assign(terminal.answer, { entry, card });
    const sample = SAMPLE_CARDS.find(({ lastFour }) => lastFour === card.lastFour);
    if (entry === 'insert' && sample?.needsPin) terminal.step = 'pin';
    else if (entry === 'swipe') terminal.step = 'signature';
    else return work(terminal);
    keep(terminal);
  }

  function pinTyped(terminal: Kept, right: boolean): void {
    const { answer, serial } = terminal;
    if (!answer) return;
    if (right) {
      wrongPins.delete(serial);
      answer.proof = 'pin';
      return work(terminal);
    }
    const wrong = (wrongPins.get(serial) ?? 0) + 1;
    wrongPins.set(serial, wrong);
    if (wrong < WRONG_PINS) return;
    wrongPins.delete(serial);
    decide(terminal, { state: 'declined', words: 'Wrong PIN three times.', tip: 0, roundUp: 0 });
  }

  const nothing = (reference: string): TerminalAnswer => ({
    reference,
    state: 'unknown',
    words: 'The terminal knows of no such payment.',
    amount: 0,
    tip: 0,
    roundUp: 0,
    entry: null,
    card: null,
    approval: '',
    proof: 'none',
    signature: '',
    at: '',
  });

  function remember(terminal: Kept, answer: TerminalAnswer): void {
    terminal.answers = [...terminal.answers, answer].slice(-MOST_ANSWERS);
  }

  const faceOf = ({
    serial,
    pairingCode,
    step,
    request,
    answer,
    line,
    bank,
    partialRate,
  }: Kept): TerminalFace => ({
    serial,
    pairingCode,
    step,
    request,
    answer,
    line,
    bank,
    partialRate,
  });

  return {
    pair(code) {
      for (const terminal of all()) {
        if (terminal.pairingCode === null || terminal.pairingCode !== code) continue;
        terminal.pairingCode = null;
        keep(terminal);
        return Promise.resolve(terminal.serial);
      }
      return Promise.reject(new TerminalRefusal('No terminal shows this code.'));
    },

    async ask(serial, request) {
      const terminal = reach(serial);
      if (answerTo(terminal, request.reference)) return;
      if (terminal.step !== 'idle' && terminal.step !== 'result') {
        throw new TerminalBusy(`The terminal is busy with ${terminal.request?.from ?? 'a payment'}.`);
      }
      const answer = {
        ...nothing(request.reference),
        state: 'waiting' as const,
        words: 'Waiting for the card.',
      };
      terminal.request = request;
      terminal.answer = answer;
      remember(terminal, answer);
      if (request.token !== null) {
        answer.entry = 'on-file';
        answer.card = cardOf(request.token) ?? {
          token: request.token,
          brand: 'Card',
          lastFour: '',
          kind: 'credit',
        };
      }
      goOn(terminal, 'idle');
    },

    async cancel(serial, reference) {
      const terminal = reach(serial);
      if (terminal.answer?.reference !== reference || terminal.answer.state !== 'waiting') return;
      decide(terminal, { state: 'cancelled', words: 'Called off at the till.', tip: 0, roundUp: 0 });
    },

    async status(serial, reference) {
      const terminal = reach(serial);
      const answer = answerTo(terminal, reference);
      if (!answer) return nothing(reference);
      return answer.state === 'waiting' ? { ...answer, words: STEP_WORDS[terminal.step] } : { ...answer };
    },

    async reverse(serial, reference) {
      const terminal = reach(serial);
      const answer = answerTo(terminal, reference);
      if (!answer) throw new TerminalRefusal('The terminal knows of no such payment.');
      if (answer.state === 'approved') {
        if (terminal.settled.includes(reference)) {
          throw new TerminalRefusal('It was settled with the bank already: refund it instead.');
        }
        Object.assign(answer, { state: 'reversed', words: 'Taken back.' });
        if (terminal.answer?.reference === reference) terminal.answer = answer;
        keep(terminal);
      }
      return { ...answer };
    },

    async refund(serial, { reference, token, amount }) {
      const terminal = reach(serial);
      const earlier = answerTo(terminal, reference);
      if (earlier) return { ...earlier };
      const card = cardOf(token);
      if (!card) throw new TerminalRefusal('The bank does not know this card.');
      const answer: TerminalAnswer = {
        ...nothing(reference),
        state: 'approved',
        words: 'Refunded.',
        amount,
        card,
        at: now().toISOString(),
        approval: String(randomInt(100_000, 1_000_000)),
      };
      terminal.refunds.push(reference);
      remember(terminal, answer);
      keep(terminal);
      return { ...answer };
    },

    async list(serial, since) {
      return reach(serial)
        .answers.filter(({ at }) => at >= since)
        .map((answer) => ({ ...answer }));
    },

    async settle(serial, after) {
      const terminal = reach(serial);
      const due = terminal.answers.filter(
        ({ state, reference }) => state === 'approved' && !terminal.settled.includes(reference),
      );
      if (due.length > 0) {
        terminal.batches.push({
          number: `${serial}-${terminal.batches.length + 1}`,
          at: now().toISOString(),
          entries: due.map(({ reference, amount, tip, roundUp }) => ({
            reference,
            amount,
            tip,
            roundUp,
            refund: terminal.refunds.includes(reference),
            fee: Math.round(((amount + tip + roundUp) * FEE_RATE) / 1_000_000) + FEE_EACH,
          })),
        });
        terminal.settled.push(...due.map(({ reference }) => reference));
        keep(terminal);
      }
      return terminal.batches.slice(terminal.batches.findIndex(({ number }) => number === after) + 1);
    },

    onAnswer(hear) {
      hearers.add(hear);
      return () => hearers.delete(hear);
    },

    face: (serial) => faceOf(open(serial)),

    press(serial, press) {
      const terminal = open(serial);
      const at = (step: TerminalStep) => {
        if (terminal.step !== step) throw new TerminalRefusal('The terminal is at another step.');
      };
      switch (press.press) {
        case 'round-up':
          at('round-up');
          if (terminal.answer && press.yes) terminal.answer.roundUp = terminal.request?.roundUp?.amount ?? 0;
          goOn(terminal, 'round-up');
          break;
        case 'tip':
          at('tip');
          if (terminal.answer) terminal.answer.tip = press.amount;
          goOn(terminal, 'tip');
          break;
        case 'card': {
          at('card');
          const card = SAMPLE_CARDS.find(({ id }) => id === press.cardId);
          if (!card) throw new TerminalRefusal('There is no such card.');
          const { brand, lastFour, kind } = card;
          take(terminal, press.entry, { token: `tok-${randomUUID()}`, brand, lastFour, kind });
          break;
        }
        case 'keyed':
          at('key-card');
          take(terminal, 'keyed', press.card);
          break;
        case 'pin':
          at('pin');
          pinTyped(terminal, press.right);
          break;
        case 'signature':
          at('signature');
          if (terminal.answer) Object.assign(terminal.answer, { proof: 'signature', signature: press.path });
          work(terminal);
          break;
        case 'stop':
          if (terminal.answer?.state === 'waiting')
            decide(terminal, { state: 'cancelled', words: 'Stopped on the terminal.', tip: 0, roundUp: 0 });
          break;
        case 'answer-now':
          at('working');
          terminal.line = 'good';
          bankDecides(terminal);
          break;
        case 'set':
          if (press.line) terminal.line = press.line;
          if (press.bank) terminal.bank = press.bank;
          if (press.partialRate) terminal.partialRate = press.partialRate;
          keep(terminal);
          // What was decided while nobody could be told is said now.
          if (terminal.line === 'good' && terminal.step === 'result' && terminal.answer)
            tell(terminal, terminal.answer);
          break;
        case 'wake':
          if (terminal.step === 'result') {
            Object.assign(terminal, { step: 'idle', request: null, answer: null });
            keep(terminal);
          }
      }
      return faceOf(terminal);
    },

    has: (serial) => existsSync(fileOf(serial)),

    count: () => readdirSync(folder).filter((name) => name.endsWith('.json')).length,

    unpack() {
      const terminal = open(`T-${randomInt(1000, 10_000)}`);
      terminal.pairingCode = String(randomInt(100_000, 1_000_000));
      keep(terminal);
      return faceOf(terminal);
    },
  };
}
