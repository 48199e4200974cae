import { writeFileSync } from 'node:fs';
import { backupHold } from './backupHold.ts';
import { handoverFinish } from './handoverFinish.ts';
import { goodsList100k, importGoods100k, valueAnyDay } from './goods100k.ts';
import { import50k } from './import50k.ts';
import { points100k } from './points100k.ts';
import { statements1000 } from './statements1000.ts';
import { waiting100k } from './waiting100k.ts';
import { receive500, reflow10k, reflowTransfers } from './cost.ts';
import { cards300k } from './cards300k.ts';
import { catalogueHold } from './catalogueHold.ts';
import { coldStart } from './coldStart.ts';
import { figures1m } from './figures.ts';
import { firstView } from './firstView.ts';
import { customers100k } from './customers100k.ts';
import { daySummary1m, journal1m } from './journal.ts';
import type { Figure } from './measure.ts';
import { offersCounter, offersExact, offersHostile, offersLarge, offersTail } from './offers.ts';
import { pricing100Lines } from './pricing.ts';
import { pricingHold } from './pricingHold.ts';
import { manyHold } from './manyHold.ts';
import { paperHold } from './paperHold.ts';
import { reportHold } from './reportHold.ts';
import { saleFinish, saleFinishStocked } from './saleFinish.ts';
import { search100k } from './search.ts';
import { splitFinish } from './splitFinish.ts';
import { tills20 } from './tills20.ts';
import { underAttack } from './underAttack.ts';
import { varianceFind, varianceHit } from './variance.ts';
import { tillSpeed } from './tillSpeed.ts';

const ALL: Record<string, () => Promise<Figure[]>> = {
  'pricing-100-lines': pricing100Lines,
  'search-100k': search100k,
  'sale-finish': saleFinish,
  'split-finish': splitFinish,
  'handover-finish': handoverFinish,
  'waiting-100k': waiting100k,
  'import-50k': import50k,
  'cards-300k': cards300k,
  'customers-100k': customers100k,
  'goods-list-100k': goodsList100k,
  'import-goods-100k': importGoods100k,
  'value-any-day': valueAnyDay,
  'points-100k': points100k,
  'statements-1000': statements1000,
  'receive-500': receive500,
  'reflow-10k': reflow10k,
  'reflow-transfers': reflowTransfers,
  'sale-finish-stocked': saleFinishStocked,
  'tills-20': tills20,
  'under-attack': underAttack,
  'pricing-hold': pricingHold,
  'backup-hold': backupHold,
  'catalogue-hold': catalogueHold,
  'many-hold': manyHold,
  'paper-hold': paperHold,
  'report-hold': reportHold,
  'cold-start': coldStart,
  'first-view': firstView,
  'till-speed': tillSpeed,
  'journal-1m': journal1m,
  'day-summary-1m': daySummary1m,
  'figures-1m': figures1m,
  'variance-find': varianceFind,
  'variance-hit': varianceHit,
  'offers-counter': offersCounter,
  'offers-large': offersLarge,
  'offers-hostile': offersHostile,
  'offers-tail': offersTail,
  'offers-exact': offersExact,
};

/** `npm run bench -- [NAME…] [--json FILE]` */
async function main(args: readonly string[]): Promise<void> {
  const at = args.indexOf('--json');
  const file = at >= 0 ? args[at + 1] : undefined;
  const names = args.filter((_name, place) => at < 0 || (place !== at && place !== at + 1));
  const unknown = names.filter((name) => !(name in ALL));
  if (unknown.length > 0)
    throw new Error(
      `No benchmark is called ${unknown.join(', ')}. There are: ${Object.keys(ALL).join(', ')}.`,
    );

  const figures: Figure[] = [];
  for (const name of names.length > 0 ? names : Object.keys(ALL)) {
    for (const one of (await ALL[name]?.()) ?? []) {
      figures.push(one);
      const goal = one.target ? `   ${one.met ? 'met' : 'MISSED'}: ${one.target}` : '';
      console.log(
        `${one.name.padEnd(28)} ${one.value.toFixed(3).padStart(10)} ${one.unit.padEnd(10)} floor ${one.floor.toFixed(3).padStart(9)}   ratio ${one.ratio.toFixed(3).padStart(8)}   n ${one.n}${goal}`,
      );
    }
  }
  if (file) {
    const rows = figures.map(({ name, unit, value, floor, ratio, n }) => ({
      name,
      unit,
      value,
      floor,
      ratio,
      n,
    }));
    writeFileSync(file, `${JSON.stringify(rows, null, 2)}\n`);
  }
}

await main(process.argv.slice(2));
