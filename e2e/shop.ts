import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { QUICK_START } from '../server/testing/quickStart.ts';
import { freePlace } from './places.ts';

/** The built application, running as a person would start it. */
export interface Shop {
  url: string;
  /** Where the web shop is that orders here. */
  webShop: string;
  /** Where one is the partner to whom orders are passed on. */
  hub: string;
  /** Ends it at once, as a power cut of the machine would. */
  kill(): Promise<void>;
  /** Does something while the shop says nothing, as if its computer had lost its power: no line is closed. */
  silent(work: () => Promise<void>): Promise<void>;
  stop(): Promise<void>;
  /** Starts it again on the same data and at the same address. */
  start(): Promise<void>;
}

/** A Monday morning in the shop. */
export const E2E_NOW = '2026-03-02T15:00:00Z';

/** Does something while a process stands still. */
export async function whileStopped(child: ChildProcess, work: () => Promise<void>): Promise<void> {
  child.kill('SIGSTOP');
  await work().finally(() => child.kill('SIGCONT'));
}

/**
 * @param kind `demo` for the made-up shop, `start` for an empty one
 * @param options of the command; the made-up shop is on its first day unless they say otherwise
 */
export async function startShop(
  folder: string,
  kind: 'demo' | 'start' = 'demo',
  options: readonly string[] = ['--new'],
): Promise<Shop> {
  let child: ChildProcess;
  let { port } = new URL(await freePlace());
  let webPort = '';
  let hubPort = '';

  async function start(): Promise<void> {
    child = spawn(process.execPath, [...QUICK_START, `setup/${kind}.mjs`, ...options], {
      env: {
        ...process.env,
        // As a shop runs it: nothing is installed or built.
        ...(kind === 'start' ? { NODE_ENV: 'production' } : {}),
        MONDREL_DATA: folder,
        PORT: port,
        MONDREL_NOW: E2E_NOW,
        MONDREL_BACKUPS_KEPT: '0',
        DATABASE_URL: '',
        // The same web shop again after a restart.
        ...(webPort && { MONDREL_WEB_SHOP: webPort }),
        ...(hubPort && { MONDREL_HUB: hubPort }),
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let said = '';
    port = await new Promise<string>((resolve, reject) => {
      const hear = (text: Buffer) => {
        said += text.toString();
        const [, own] = /http:\/\/localhost:(\d+)/.exec(said) ?? [];
        const [, next] = /web shop: http:\/\/localhost:(\d+)/.exec(said) ?? [];
        webPort = next ?? '';
        [, hubPort = ''] = /relay hub: http:\/\/localhost:(\d+)/.exec(said) ?? [];
        if (own && (hubPort || kind === 'start')) resolve(own);
      };
      child.stdout?.on('data', hear);
      child.stderr?.on('data', hear);
      child.once('exit', (code) => reject(new Error(`the shop ended with ${code}:\n${said}`)));
    });
  }

  async function end(signal: NodeJS.Signals): Promise<void> {
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill(signal);
    await once(child, 'exit');
  }

  await start();
  return {
    get url() {
      return `http://localhost:${port}`;
    },
    get webShop() {
      return `http://localhost:${webPort}`;
    },
    get hub() {
      return `http://localhost:${hubPort}`;
    },
    kill: () => end('SIGKILL'),
    silent: (work) => whileStopped(child, work),
    stop: () => end('SIGTERM'),
    start,
  };
}
