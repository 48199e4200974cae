// npm run screenshots: the pictures in docs/screenshots, made from the demo data.
import { prepare, runPackage } from './steps.mjs';
import { installSystemPackages } from './systemPackages.mjs';

await prepare();
await installSystemPackages();
await runPackage('tsx', ['e2e/screenshots.ts']);
