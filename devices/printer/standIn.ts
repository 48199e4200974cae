import { mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { escPos } from './escPos.ts';
import type { PrinterDriver, PrinterJob } from './driver.ts';

/** A paper that came out of the stand-in. */
export interface PrintedPaper {
  id: number;
  openedDrawer: boolean;
  paper: PrinterJob['paper'];
  text: string;
}

/** A printer that keeps its papers in a folder, so that they can be looked at on screen. */
export interface PrinterStandIn extends PrinterDriver {
  /** The newest papers of a printer, newest first. */
  papers(printer: string, most: number): Promise<PrintedPaper[]>;
}

/** @param folder where the papers go, one file each, in a folder per printer */
export function printerStandIn(folder: string): PrinterStandIn {
  const folderOf = (printer: string) => join(folder, printer.replace(/[^\w-]/g, '_'));
  return {
    async print({ id, printer, setup, paper, text, openDrawer }) {
      const place = folderOf(printer);
      await mkdir(place, { recursive: true });
      const name = String(id).padStart(9, '0');
      const printed: PrintedPaper = { id, openedDrawer: openDrawer, paper, text };
      await writeFile(join(place, `${name}.txt`), text);
      // What a real printer would get.
      await writeFile(join(place, `${name}.bin`), escPos(paper, openDrawer, setup));
      await writeFile(join(place, `${name}.json.new`), JSON.stringify(printed));
      await rename(join(place, `${name}.json.new`), join(place, `${name}.json`));
    },
    async papers(printer, most) {
      const names = await readdir(folderOf(printer)).catch(() => []);
      const newest = names
        .filter((name) => name.endsWith('.json'))
        .sort()
        .reverse()
        .slice(0, most);
      const texts = await Promise.all(newest.map((name) => readFile(join(folderOf(printer), name), 'utf8')));
      return texts.map((text) => JSON.parse(text) as PrintedPaper);
    },
  };
}
