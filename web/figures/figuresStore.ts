import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { Choices, CheckAnswer, ReportAnswer, Tie, TodayFigures, Trend } from '../../contract/figures.ts';
import type { ReportName } from '../../core/figures/reports.ts';
import { read } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { lookAgain } from '../net/lookAgain.ts';

/** How many checks are done, and what does not tie so far. */
type Checked = CheckAnswer & { done: number };

/** What the shop did: as it is asked for, and told again when something was sold. */
export const useFiguresStore = defineStore('figures', () => {
  const [choices, showChoices] = shown<Choices | null>(null);
  const [today, showToday] = shown<TodayFigures | null>(null);
  const [report, showReport] = shown<ReportAnswer | null>(null);
  const [trend, showTrend] = shown<Trend | null>(null);
  const [ties, showTies] = shown<Tie[] | null>(null);
  const checked = shallowRef<Checked | null>(null);

  async function loadChoices(): Promise<Choices> {
    const asked = read<Choices>('/figures/choices');
    return (await showChoices(asked)) ?? asked;
  }
  async function loadToday(place: number): Promise<void> {
    await showToday(read<TodayFigures>(`/figures/today?place=${place}`));
  }
  /** @param query what is asked for, as an address says it */
  async function loadReport(name: ReportName, query: string): Promise<void> {
    await showReport(read<ReportAnswer>(`/figures/reports/${name}?${query}`));
  }
  async function loadTrend(query: string): Promise<void> {
    await showTrend(read<Trend>(`/figures/trend?${query}`));
  }
  async function loadTies(query: string): Promise<void> {
    await showTies(read<Tie[]>(`/figures/ties?${query}`));
  }
  /** Checks all that is kept, one check after the other. @param goesOn whether somebody still wants to know */
  async function loadChecks(goesOn: () => boolean): Promise<void> {
    let so: Checked = { done: 0, of: 1, differences: [] };
    checked.value = null;
    while (so.done < so.of) {
      const done = so.done + 1;
      const { of, differences } = await read<CheckAnswer>(`/figures/checks/${done}`);
      if (!goesOn()) return;
      so = { done, of, differences: [...so.differences, ...differences] };
      checked.value = so;
    }
  }
  /** Calls back when something was sold, undone or counted. */
  const follow = (again: () => Promise<unknown>) =>
    lookAgain(['sale-finished', 'sale-voided', 'drawer-changed'], again);

  return {
    choices,
    today,
    report,
    trend,
    ties,
    checked,
    loadChoices,
    loadToday,
    loadReport,
    loadTrend,
    loadTies,
    loadChecks,
    follow,
  };
});
