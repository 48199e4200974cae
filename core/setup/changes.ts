import type { SetupSection } from './sections.ts';

/** One setting in words: what it is called on the screen, and how it stands. */
export interface SettingInWords {
  section: SetupSection;
  what: string;
  value: string;
}

/** What a setting was and what it became; empty where there was none before, or is none any more. */
export interface SettingChange {
  section: SetupSection;
  what: string;
  was: string;
  became: string;
}

/** What differs between two states of the setup, in the order in which it stands there. */
export function settingChanges(
  before: readonly SettingInWords[],
  after: readonly SettingInWords[],
): SettingChange[] {
  const nameOf = ({ section, what }: SettingInWords) => `${section}\n${what}`;
  const was = new Map(before.map((setting) => [nameOf(setting), setting]));
  const became = new Map(after.map((setting) => [nameOf(setting), setting]));
  const all = new Map([...was, ...became]);
  return [...all.entries()].flatMap(([name, { section, what }]) => {
    const [from = '', to = ''] = [was.get(name)?.value, became.get(name)?.value];
    return from === to ? [] : [{ section, what, was: from, became: to }];
  });
}

/** A change that was kept, and whose it is. */
export interface KeptChange extends SettingChange {
  who: string;
}

/**
 * The changes of others that a change would undo unseen: those of the same settings, of which whoever made it had not
 * heard.
 * @param since what was changed after they had looked, the oldest first
 */
export function undoneUnseen(mine: readonly SettingChange[], since: readonly KeptChange[]): KeptChange[] {
  return since.filter(({ section, what }) =>
    mine.some((change) => change.section === section && change.what === what),
  );
}

/** What others changed, in words for whoever was about to undo it. */
export function changedWords({ what, was, became, who }: KeptChange): string {
  return `${what}: ${was || 'nothing'} → ${became || 'nothing'} (${who}).`;
}
