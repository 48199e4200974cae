import { EventEmitter } from 'node:events';
import { expect, it, vi } from 'vitest';
import { logRejections } from './rejections.ts';

it('a rejected promise that nobody waits for ends in the log with its cause', () => {
  const error = vi.fn();
  const on = new EventEmitter();
  const stop = logRejections({ error }, on);
  const cause = new Error('the printer is gone');
  on.emit('unhandledRejection', cause);
  expect(error).toHaveBeenCalledWith({ err: cause }, expect.stringContaining('nobody waits for'));
  stop();
  on.emit('unhandledRejection', cause);
  expect(error).toHaveBeenCalledTimes(1);
});
