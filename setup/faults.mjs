// npm run faults [-- KILLS]: kills the real server so often (and cuts its power a quarter as often) while it sells,
// takes payments, gives money back and voids; then looks whether anything was lost or doubled.
import { build, installPackages, runPackage } from './steps.mjs';
import { installSystemPackages } from './systemPackages.mjs';

const kills = Number(process.argv[2] ?? 20);
if (!Number.isInteger(kills) || kills < 1)
  throw new Error('How many kills? For example: npm run faults -- 200');
installPackages();
await installSystemPackages();
await build('server');
process.env.MONDREL_KILLS = String(kills);
process.env.MONDREL_CUTS = String(Math.ceil(kills / 4));
await runPackage('vitest', ['run', '--project', 'faults']);
