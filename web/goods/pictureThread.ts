import { wrap } from 'comlink';
import type { PictureThread } from './pictureWorker.ts';

/** Pictures are made smaller, and turned, in a thread of their own. */
export const pictures = wrap<PictureThread>(
  new Worker(new URL('./pictureWorker.ts', import.meta.url), { type: 'module', name: 'pictures' }),
);
