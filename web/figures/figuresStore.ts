import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { Choices, ReportAnswer, TiesAnswer, TodayFigures, Trend } from '../../contract/figures.ts';
import type { ReportName } from '../../core/figures/reports.ts';
import { read } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { lastAnswer } from '../net/lastAnswer.ts';

/** What the shop did: as it is asked for, and told again when something was sold. */
export const useFiguresStore = defineStore('figures', () => {
  const choices = shallowRef<Choices | null>(null);
  const today = shallowRef<TodayFigures | null>(null);
  const report = shallowRef<ReportAnswer | null>(null);
  const trend = shallowRef<Trend | null>(null);
  const tied = shallowRef<TiesAnswer | null>(null);
  const last = { today: lastAnswer(), report: lastAnswer(), trend: lastAnswer(), tied: lastAnswer() };

  async function loadChoices(): Promise<Choices> {
    return (choices.value = await read<Choices>('/figures/choices'));
  }
  async function loadToday(place: number): Promise<void> {
    today.value = (await last.today(read<TodayFigures>(`/figures/today?place=${place}`))) ?? today.value;
  }
  /** @param query what is asked for, as an address says it */
  async function loadReport(name: ReportName, query: string): Promise<void> {
    report.value =
      (await last.report(read<ReportAnswer>(`/figures/reports/${name}?${query}`))) ?? report.value;
  }
  async function loadTrend(query: string): Promise<void> {
    trend.value = (await last.trend(read<Trend>(`/figures/trend?${query}`))) ?? trend.value;
  }
  async function loadTies(query: string): Promise<void> {
    tied.value = (await last.tied(read<TiesAnswer>(`/figures/ties?${query}`))) ?? tied.value;
  }
  /** Calls back when something was sold, undone or counted. */
  const follow = (again: () => void): (() => void) =>
    hear(({ kind }) => {
      if (['sale-finished', 'sale-voided', 'drawer-changed', 'connected'].includes(kind)) again();
    });

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
