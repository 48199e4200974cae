import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { freePlace } from './places.ts';
import { E2E_NOW, whileStopped, type Shop } from './shop.ts';

interface Answer {
  id: number;
  answer?: unknown;
  error?: string;
}

interface Places {
  url: string;
  webShop: string;
  hub: string;
}

/**
 * The process in which shops of test files are, one after the other, and where: the files of a run share both, and a
 * browser that has been there knows the application.
 */
const kept = globalThis as { shopProcess?: ChildProcess | undefined; places?: Places };
let asked = 0;

function shopProcess(): ChildProcess {
  const running = kept.shopProcess;
  if (running && running.exitCode === null && running.signalCode === null) return running;
  const child = fork(join(import.meta.dirname, 'shopProcess.mjs'), {
    execArgv: ['--single-threaded-gc'],
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
  });
  child.setMaxListeners(0);
  // Tests end without it, and it ends with them.
  child.unref();
  kept.shopProcess = child;
  return child;
}

async function tell(
  what: 'start' | 'stop' | 'verify',
  environment: Record<string, string> = {},
): Promise<unknown> {
  const child = shopProcess();
  const id = (asked += 1);
  let said = '';
  const hear = (text: Buffer) => (said += text.toString());
  child.stderr?.on('data', hear);
  try {
    return await new Promise((resolve, reject) => {
      const answered = ({ id: of, answer, error }: Answer) => {
        if (of !== id) return;
        settle();
        if (error === undefined) resolve(answer);
        else reject(new Error(error));
      };
      const ended = () => {
        settle();
        reject(new Error(`the shop's process has ended:\n${said}`));
      };
      const settle = () => {
        child.off('message', answered);
        child.off('exit', ended);
      };
      child.on('message', answered);
      child.on('exit', ended);
      child.send({ id, what, environment });
    });
  } finally {
    child.stderr?.off('data', hear);
  }
}

const environmentOf = (folder: string): Record<string, string> => ({
  MONDREL_DATA: folder,
  MONDREL_NOW: E2E_NOW,
  MONDREL_BACKUPS_KEPT: '0',
});

/** Recomputes every kept figure of a shop that is closed. @returns what was found, in words */
export const verifyShop = async (folder: string): Promise<string> =>
  String(await tell('verify', environmentOf(folder)));

/** The made-up shop, already laid down in a folder. */
export async function openLaidShop(folder: string): Promise<Shop> {
  let at = (kept.places ??= { url: await freePlace(), webShop: await freePlace(), hub: await freePlace() });
  let open = false;

  async function start(): Promise<void> {
    // The same addresses again after it was closed.
    at = (await tell('start', {
      ...environmentOf(folder),
      PORT: new URL(at.url).port,
      MONDREL_WEB_SHOP: new URL(at.webShop).port,
      MONDREL_HUB: new URL(at.hub).port,
    })) as Places;
    open = true;
  }

  await start();
  return {
    get url() {
      return at.url;
    },
    get webShop() {
      return at.webShop;
    },
    get hub() {
      return at.hub;
    },
    start,
    async kill() {
      const child = shopProcess();
      child.kill('SIGKILL');
      await once(child, 'exit');
      open = false;
    },
    silent: (work) => whileStopped(shopProcess(), work),
    async stop() {
      if (open) await tell('stop');
      open = false;
    },
  };
}
