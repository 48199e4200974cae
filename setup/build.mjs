import { prepare } from './steps.mjs';

await prepare();
