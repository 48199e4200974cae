// npm run fuzz [-- REQUESTS [SEED]]: sends every route what nobody should send, longer than `npm test` does.
import { installPackages, runPackage } from './steps.mjs';
import { installSystemPackages } from './systemPackages.mjs';

const [requests = '20000', seed = String(Date.now() % 1_000_000)] = process.argv.slice(2);
installPackages();
await installSystemPackages();
process.env.MONDREL_FUZZ = requests;
process.env.MONDREL_SEED = seed;
console.log(`${requests} requests on each engine, seed ${seed}`);
await runPackage('vitest', ['run', '--project', 'pglite', '--project', 'postgres', 'server/testing/fuzz']);
