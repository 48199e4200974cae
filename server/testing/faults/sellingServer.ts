import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { browserOf, type Browser } from '../browser.ts';
import { QUICK_START } from '../quickStart.ts';

/** The built application as a process of its own, which can be killed. */
export interface SellingServer {
  process: ChildProcess;
  url: string;
  browser(): Browser;
  /** Ends the process at once, in the middle of whatever it does. */
  kill(): Promise<void>;
}

/** Starts the built server with the demo shop on a folder and waits until it serves. */
export async function startServer(folder: string): Promise<SellingServer> {
  const script = `
    const parts = Promise.all([import('./dist/server/main.js'), import('./dist/server/fill.js')]);
    parts.then(async ([{ run }, { fillNewDemo }]) => {
      const { url } = await run('unused', { webFolder: '/nowhere', fill: fillNewDemo });
      console.log('serving ' + url);
    }, (error) => { console.error(error); process.exit(1); });`;
  const child = spawn(process.execPath, [...QUICK_START, '-e', script], {
    env: { ...process.env, MONDREL_DATA: folder, PORT: '0', DATABASE_URL: '' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const url = await new Promise<string>((resolve, reject) => {
    const hear = (text: Buffer) => {
      said += text.toString();
      const match = /serving (\S+)/.exec(said);
      if (match?.[1]) resolve(match[1]);
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}:\n${said}`)));
  });
  return {
    process: child,
    url,
    browser: () => browserOf(() => url),
    async kill() {
      if (child.exitCode !== null || child.signalCode !== null) return;
      child.kill('SIGKILL');
      await once(child, 'exit');
    },
  };
}
