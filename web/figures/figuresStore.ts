import { defineStore } from 'pinia';
import type { Choices, ReportAnswer, TiesAnswer, TodayFigures, Trend } from '../../contract/figures.ts';
import type { ReportName } from '../../core/figures/reports.ts';
import { read } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { lookAgain } from '../net/lookAgain.ts';

/** What the shop did: as it is asked for, and told again when something was sold. */
export const useFiguresStore = defineStore('figures', () => {
  const [choices, showChoices] = shown<Choices | null>(null);
  const [today, showToday] = shown<TodayFigures | null>(null);
  const [report, showReport] = shown<ReportAnswer | null>(null);
  const [trend, showTrend] = shown<Trend | null>(null);
  const [tied, showTied] = shown<TiesAnswer | null>(null);

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
    await showTied(read<TiesAnswer>(`/figures/ties?${query}`));
  }
  /** Calls back when something was sold, undone or counted. */
  const follow = (again: () => Promise<unknown>) =>
    lookAgain(['sale-finished', 'sale-voided', 'drawer-changed', 'connected'], again);

  return {
    choices,
    today,
    report,
    trend,
    tied,
    loadChoices,
    loadToday,
    loadReport,
    loadTrend,
    loadTies,
    follow,
  };
});
