// Programs that the tests and benchmarks drive: Chromium with its driver, a PostgreSQL server, and two that read
// accounting journals (Debian's packages).
import { existsSync, readdirSync } from 'node:fs';
import { runProgram } from './steps.mjs';

const WANTED = [
  { name: 'chromium', there: () => existsSync('/usr/bin/chromium') },
  { name: 'chromium-driver', there: () => existsSync('/usr/bin/chromedriver') },
  {
    name: 'postgresql',
    there: () =>
      existsSync('/usr/lib/postgresql') &&
      readdirSync('/usr/lib/postgresql').some((version) =>
        existsSync(`/usr/lib/postgresql/${version}/bin/initdb`),
      ),
  },
  // The books are exported in a syntax that these two read.
  { name: 'ledger', there: () => existsSync('/usr/bin/ledger') },
  { name: 'hledger', there: () => existsSync('/usr/bin/hledger') },
];

const UPDATE = 'apt-get update -q';
const INSTALL = 'DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends';

/**
 * Installs what is missing, while something else may be done.
 * @throws Error naming the packages where that is not possible
 */
export async function installSystemPackages() {
  const missing = WANTED.filter(({ there }) => !there()).map(({ name }) => name);
  if (missing.length === 0) return;
  console.log(`Installing ${missing.join(', ')} …`);
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  const [program, ...args] = [...asRoot, 'sh', '-c', `${UPDATE} && ${INSTALL} "$@"`, 'install', ...missing];
  try {
    await runProgram(program, args, { stdio: ['ignore', 'ignore', 'inherit'] });
  } catch {
    throw new Error(`Please install ${missing.join(', ')} (Debian's packages); this machine did not let me.`);
  }
}
