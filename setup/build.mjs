// npm run build [-- server]: builds what has changed.
import { build, installPackages, prepare } from './steps.mjs';

if (process.argv[2] === 'server') {
  installPackages();
  await build('server');
} else {
  await prepare();
}
