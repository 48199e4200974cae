/**
 * What each key does where: what listens, the hints on the buttons, the keys panel and `docs/keys.md` come from here.
 * Keys are named as the browser names them; `Alt+` in front where it is held.
 */
export interface KeyUse {
  readonly keys: readonly string[];
  readonly words: string;
  /** What stands for the keys on a button, where it is not the first of them. */
  readonly shown?: string;
}

export interface KeyPlace {
  readonly words: string;
  readonly uses: Readonly<Record<string, KeyUse>>;
}

const DIGITS = ['1', '2', '3', '4', '5', '6', '7', '8', '9'] as const;
const UP_DOWN = ['ArrowUp', 'ArrowDown'] as const;
const ARROWS = [...UP_DOWN, 'ArrowLeft', 'ArrowRight'] as const;

/** Places from the outer ones to those that lie within: what an inner one has no use for goes on outwards. */
export const KEYS = {
  everywhere: {
    words: 'Everywhere',
    uses: {
      showKeys: { keys: ['?'], words: 'Shows and hides the keys' },
      hideKeys: { keys: ['Escape'], words: 'Hides the keys' },
    },
  },
  entry: {
    words: 'Entry field',
    uses: {
      focus: { keys: ['/'], words: 'Entry field; it has the focus whenever nothing else has it' },
      quantity: {
        keys: [],
        shown: '3*',
        words:
          'Quantity first, then scan or type (`2.5*` for goods by length, `-1*` for goods that come back, where allowed)',
      },
      chooseFound: { keys: UP_DOWN, words: 'Choose an item in the list that was found' },
      clear: { keys: ['Escape'], words: 'Clears what was typed' },
    },
  },
  counter: {
    words: 'At the Counter',
    uses: {
      next: { keys: ['F9'], words: 'Next step: take payment, next sale' },
      customer: { keys: ['F4'], words: 'Customer on the sale' },
      layaway: { keys: ['F7'], words: 'Set the basket aside as a layaway' },
      order: { keys: ['F3'], words: 'Order the basket: collected or shipped later' },
      hold: { keys: ['F8'], words: 'Put the basket on hold' },
      takeBack: { keys: ['F6'], words: 'Take goods back' },
      follow: { keys: ['F2'], words: 'Add what is suggested, use the reward, or pay with points' },
      chooseLine: { keys: UP_DOWN, words: 'Choose a line' },
      more: { keys: ['+'], words: 'One more of the chosen line' },
      less: { keys: ['-'], words: 'One less of the chosen line' },
      remove: { keys: ['Delete'], words: 'Remove the chosen line (Undo stays in sight)' },
      nextSale: { keys: ['Enter'], words: 'After a sale: the next one' },
      back: { keys: ['Escape'], words: 'One step back; the change of the sale before is given' },
    },
  },
  line: {
    words: 'On a line that ↑ ↓ chose',
    uses: {
      quantity: { keys: ['Enter'], words: 'Type its quantity' },
      item: { keys: ['i'], words: 'The item, with stock everywhere' },
      discount: { keys: ['d'], words: 'Discount' },
      price: { keys: ['p'], words: 'Price' },
      note: { keys: ['n'], words: 'Note' },
      gift: { keys: ['g'], words: 'Gift receipt' },
      pick: { keys: [' '], words: 'Pick it together with others' },
    },
  },
  form: {
    words: 'In a form',
    uses: {
      accept: { keys: ['F9'], words: 'Does what the blue button says', shown: 'Enter' },
      leave: { keys: ['Escape'], words: 'Leaves it; nothing is changed' },
    },
  },
  holding: {
    words: 'Putting on hold',
    uses: { hold: { keys: ['F8'], words: 'Holds the basket' } },
  },
  customer: {
    words: 'Customer on the sale',
    uses: {
      again: { keys: DIGITS.slice(0, 5), words: 'Ring an earlier visit up again' },
      moneyIn: { keys: ['m', 'M'], words: 'Money for their house account' },
      pointsOff: { keys: ['p', 'P'], words: 'Pay with their points' },
    },
  },
  variants: {
    words: 'Choosing size and colour',
    uses: {
      move: { keys: ARROWS, words: 'Choose; `Enter` adds it' },
      leave: { keys: ['Escape'], words: 'Leaves it' },
    },
  },
  tiles: {
    words: 'Arranging tiles',
    uses: {
      move: { keys: ARROWS, words: 'Move the tile' },
      colour: { keys: ['c'], words: 'Its next colour' },
      remove: { keys: ['Delete'], words: 'Take it away' },
    },
  },
  returning: {
    words: 'Taking goods back',
    uses: {
      choose: { keys: DIGITS, words: 'Choose the line with this number' },
      swap: { keys: ['s', 'S'], words: 'Swap what is chosen for another size' },
      takeBack: { keys: ['F9'], words: 'Take back what is chosen' },
      leave: { keys: ['Escape'], words: 'Leaves it' },
    },
  },
  paying: {
    words: 'While paying',
    uses: {
      choose: {
        keys: [...DIGITS.map((digit) => `Alt+${digit}`), ...DIGITS],
        words: 'Choose a means of payment',
      },
      move: { keys: UP_DOWN, words: 'Choose the means before or after' },
      split: { keys: ['÷', 'Alt+/'], words: 'Split evenly; then a number chooses how many parts' },
      roundUp: { keys: ['Alt+r'], words: 'Round up and give the rest' },
      accept: { keys: ['F9'], words: 'Accept it' },
    },
  },
  refunding: {
    words: 'Giving money back',
    uses: {
      choose: { keys: DIGITS, words: 'Choose how it is given' },
      give: { keys: ['F9'], words: 'Give it back' },
    },
  },
  terminal: {
    words: 'While a card terminal asks',
    uses: { callOff: { keys: ['Escape'], words: 'Calls it off' } },
  },
  countersign: {
    words: 'Countersigning',
    uses: { leave: { keys: ['Escape'], words: 'Leaves it, wherever the hand is' } },
  },
  waiting: {
    words: 'Waiting',
    uses: { takeUp: { keys: ['F9'], words: 'Take it up on this till' } },
  },
  column: {
    words: 'In a list beside what is looked at',
    uses: { move: { keys: UP_DOWN, words: 'Look at the one before or after' } },
  },
  list: {
    words: 'In a list over the whole page',
    uses: {
      move: { keys: UP_DOWN, words: 'Choose a row' },
      turn: { keys: ['PageUp', 'PageDown'], words: 'The page before, the next page' },
      open: { keys: ['Enter'], words: 'Open it' },
      pick: { keys: [' '], words: 'Pick it together with others' },
    },
  },
  opening: {
    words: 'Opening the drawer',
    uses: { open: { keys: ['F9'], words: 'Open the shift' } },
  },
  closing: {
    words: 'Closing the shift',
    uses: {
      next: { keys: ['F9'], words: 'Next step: count, compare, bag, sign' },
      back: { keys: ['Escape'], words: 'One step back' },
    },
  },
  comparing: {
    words: 'Comparing',
    uses: {
      follow: {
        keys: DIGITS.map((digit) => `Alt+${digit}`),
        words: 'Follow an explanation up',
      },
    },
  },
  report: {
    words: 'Shift report',
    uses: { toDrawer: { keys: ['F9'], words: 'To the drawer' } },
  },
} as const satisfies Record<string, KeyPlace>;

export type Place = keyof typeof KEYS;
export type UseIn<P extends Place> = Extract<keyof (typeof KEYS)[P]['uses'], string>;
/** A use of a key, by its place: `counter.hold`. */
export type KeyName = { [P in Place]: `${P}.${UseIn<P>}` }[Place];

const NAMES: Readonly<Record<string, string>> = {
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
  Delete: 'Del',
  PageUp: 'Page ↑',
  PageDown: 'Page ↓',
  ' ': 'Space',
  '-': '−',
};

/** The keys of a use as they stand on the keyboard, the first one first; digits together. */
export function keyNames({ keys }: KeyUse): string[] {
  const last = keys.findLast((key) => /^(Alt\+)?\d$/.test(key))?.at(-1);
  const names = keys.map((key) => {
    const [plain, held] = key.startsWith('Alt+') ? [key.slice(4), 'Alt '] : [key, ''];
    if (/^\d$/.test(plain)) return `${held}1–${last}`;
    return held + (NAMES[plain] ?? (plain.length === 1 ? plain.toUpperCase() : plain));
  });
  return [...new Set(names)];
}

export function useOf(name: KeyName): KeyUse {
  const [place, use] = name.split('.') as [Place, string];
  const uses: Readonly<Record<string, KeyUse>> = KEYS[place].uses;
  const found = uses[use];
  if (!found) throw new Error(`no key is called ${name}`);
  return found;
}

/** What stands for a use on its button. */
export function keyHint(name: KeyName): string {
  const use = useOf(name);
  return use.shown ?? keyNames(use)[0] ?? '';
}

/** All that the keys panel shows of a use. */
export const allKeys = (use: KeyUse): string[] => [
  ...new Set([...(use.shown ? [use.shown] : []), ...keyNames(use)]),
];

/** The table of `docs/keys.md`. */
export function keysAsMarkdown(): string {
  return Object.values<KeyPlace>(KEYS)
    .map(({ words, uses }) => {
      const rows = Object.values(uses).map(
        (use) =>
          `| ${allKeys(use)
            .map((key) => `\`${key}\``)
            .join(' ')} | ${use.words} |`,
      );
      return [`## ${words}`, '', '| key | does |', '|---|---|', ...rows].join('\n');
    })
    .join('\n\n');
}
