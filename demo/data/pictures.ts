/** Drawings for the goods, one for each category: strokes of ink, and one of the three colours. */
const INK = '#15171C';
const BLUE = '#1B4B9B';
const YELLOW = '#F4BE1A';
const RED = '#BF2F1D';

const drawing = (shapes: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 120"><rect width="160" height="120" fill="#FAF7EF"/><g fill="none" stroke="${INK}" stroke-width="4" stroke-linecap="round" stroke-linejoin="round">${shapes}</g></svg>`;

const filled = (colour: string) => `fill="${colour}" stroke="none"`;

const SHAPES: Readonly<Record<string, string>> = {
  Clarinets: `<path d="M24 96 118 34"/><path d="M28 102 122 40"/><path d="M24 96 16 112 28 102"/><path d="M118 34 140 16 122 40"/><g ${filled(BLUE)}><circle cx="52" cy="80" r="5"/><circle cx="68" cy="70" r="5"/><circle cx="84" cy="59" r="5"/><circle cx="100" cy="49" r="5"/></g>`,
  Flutes: `<path d="M14 70H146M14 58H146M14 58V70M146 58V70"/><ellipse cx="34" cy="64" rx="9" ry="3"/><g ${filled(BLUE)}><circle cx="70" cy="64" r="5"/><circle cx="86" cy="64" r="5"/><circle cx="102" cy="64" r="5"/><circle cx="118" cy="64" r="5"/></g>`,
  Saxophones: `<path d="M46 18H60C72 18 74 30 74 42V78C74 92 90 92 90 78V62L116 54V82C116 116 52 116 52 84V40C52 30 50 26 46 26Z"/><g ${filled(YELLOW)}><circle cx="63" cy="50" r="5"/><circle cx="63" cy="64" r="5"/><circle cx="64" cy="78" r="5"/></g>`,
  Brass: `<path d="M14 56H96C112 56 120 44 142 32V88C120 76 112 64 96 64H14M46 64V86C46 96 98 96 98 86V64"/><g stroke="${YELLOW}" stroke-width="8"><path d="M60 40V84M72 40V84M84 40V84"/></g>`,
  Violins: `<path d="M80 8V44M80 44C58 44 58 62 66 70C52 78 52 110 80 110C108 110 108 78 94 70C102 62 102 44 80 44Z"/><path d="M74 14H86M72 22H88"/><path d="M66 88H94" stroke="${RED}"/><path d="M70 72V82M90 72V82"/>`,
  Cellos: `<path d="M80 6V36M80 36C54 36 54 58 62 66C46 74 46 104 80 104C114 104 114 74 98 66C106 58 106 36 80 36ZM80 104V116"/><path d="M64 84H96" stroke="${RED}"/><path d="M68 66V78M92 66V78"/>`,
  Guitars: `<path d="M92 56 136 18M98 62 142 24M136 18 142 24"/><path d="M92 56C84 42 66 48 66 60C44 56 20 78 34 98C50 114 76 104 78 84C92 86 106 76 98 62"/><circle cx="66" cy="78" r="11" fill="${YELLOW}"/>`,
  Recorders: `<path d="M22 92 124 26 134 40 32 106ZM124 26 140 18 142 30 134 40"/><g ${filled(BLUE)}><circle cx="58" cy="79" r="4"/><circle cx="72" cy="70" r="4"/><circle cx="86" cy="61" r="4"/><circle cx="100" cy="52" r="4"/></g>`,
  Percussion: `<ellipse cx="80" cy="42" rx="50" ry="18" fill="#fff"/><path d="M30 42V82C30 106 130 106 130 82V42"/><path d="M30 58 56 98M56 58 80 102M104 102 130 58M80 58 104 98" stroke="${RED}"/>`,
  Reeds: `<path d="M58 106V44C58 20 102 20 102 44V106Z" fill="#fff"/><path d="M58 66C70 56 90 56 102 66" stroke="${YELLOW}"/><path d="M58 76H102M70 106V82M80 106V80M90 106V82"/>`,
  Strings: `<circle cx="80" cy="60" r="44"/><circle cx="80" cy="60" r="34"/><circle cx="80" cy="60" r="24" stroke="${BLUE}"/><path d="M112 90 134 110"/>`,
  Sticks: `<path d="M26 104 122 22M34 20 134 104"/><circle cx="126" cy="18" r="6" fill="${RED}" stroke="none"/><circle cx="30" cy="16" r="6" fill="${RED}" stroke="none"/>`,
  Care: `<path d="M62 36H98V104H62ZM70 36V20H90V36M66 20H94" /><path d="M62 60H98V84H62Z" fill="${BLUE}"/>`,
  Picks: `<path d="M80 106C60 90 44 56 52 34C60 16 100 16 108 34C116 56 100 90 80 106Z" fill="${YELLOW}"/>`,
  Cables: `<path d="M28 92C28 28 132 28 132 92"/><path d="M44 92C44 46 116 46 116 92"/><path d="M22 88V108H34V88ZM126 88V108H138V88Z" fill="${RED}"/>`,
  Stands: `<path d="M40 18H120V56H40ZM80 56V84M80 84 54 112M80 84 106 112M80 84V112"/><path d="M36 58H124" stroke="${BLUE}" stroke-width="7"/>`,
  Cases: `<path d="M18 46H142V98H18ZM62 46V32H98V46"/><path d="M18 68H142"/><g ${filled(YELLOW)}><rect x="42" y="62" width="14" height="12"/><rect x="104" y="62" width="14" height="12"/></g>`,
  Straps: `<path d="M22 96C40 20 120 20 138 96"/><path d="M36 100C52 38 108 38 124 100"/><path d="M18 94H42V108H18ZM118 94H142V108H118Z" fill="${RED}"/>`,
  Clothing: `<path d="M56 18 24 34 34 58 48 52V106H112V52L126 58 136 34 104 18C98 30 62 30 56 18Z" fill="#fff"/><path d="M66 70H94" stroke="${BLUE}" stroke-width="8"/>`,
  'Metronomes and tuners': `<path d="M60 14H100L122 106H38Z"/><path d="M80 92 104 30" stroke="${RED}"/><circle cx="98" cy="46" r="7" fill="${RED}" stroke="none"/><path d="M44 82H116"/>`,
  Mouthpieces: `<path d="M30 46C44 32 60 50 84 52H138V68H84C60 70 44 88 30 74Z" fill="#fff"/><path d="M100 52V68M110 52V68" stroke="${YELLOW}"/>`,
  Harmonicas: `<path d="M16 44H144V80H16Z"/><path d="M16 62H144" stroke="${BLUE}"/><path d="M36 62V80M54 62V80M72 62V80M90 62V80M108 62V80M126 62V80"/>`,
  'Printed music': `<path d="M42 12H118V108H42Z" fill="#fff"/><path d="M54 34H106M54 42H106M54 50H106M54 78H106M54 86H106M54 94H106" stroke-width="2"/><g ${filled(INK)}><ellipse cx="68" cy="50" rx="6" ry="4"/><ellipse cx="92" cy="86" rx="6" ry="4"/></g><path d="M73 50V30M97 86V64" stroke="${RED}"/>`,
  Lessons: `<circle cx="80" cy="60" r="44" fill="#fff"/><path d="M80 60V32" /><path d="M80 60 100 72" stroke="${BLUE}"/><path d="M80 20V24M80 96V100M40 60H44M116 60H120"/>`,
  Repairs: `<path d="M30 100 84 46M42 112 96 58" /><path d="M84 46C76 24 96 10 114 18L100 32 110 42 124 28C132 46 118 64 96 58" fill="${YELLOW}"/><path d="M30 100 42 112"/>`,
  Bundles: `<path d="M28 44H132V106H28Z" fill="#fff"/><path d="M20 28H140V46H20ZM80 28V106" /><path d="M80 28C60 4 44 16 58 28M80 28C100 4 116 16 102 28" stroke="${RED}"/>`,
};

/** Every drawing by the category that it stands for. */
export const PICTURES: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries(SHAPES).map(([category, shapes]) => [category, drawing(shapes)]),
);
