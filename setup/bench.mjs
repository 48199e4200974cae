// npm run bench [-- NAME… --json FILE]: every figure beside a floor measured in the same run.
import { installSystemPackages } from './systemPackages.mjs';
import { prepare, ROOT, runPackage } from './steps.mjs';

await prepare();
await installSystemPackages();
// The benchmarks import the server's source with its SQL files, so they run through the same builder as the tests.
await runPackage('vite', ['build', '--config', 'vite.bench.config.ts', '--logLevel', 'warn']);
process.chdir(ROOT);
await import(new URL('../dist/bench/run.js', import.meta.url));
