import type { Choices } from './choices.ts';
import type { Draft } from './draft.ts';
import type { Entry } from './input.ts';

/** What is there before the button. */
export interface AlwaysOn {
  /** Feeds the controller. */
  controller: string;
  three: string;
  five: string;
  /** Says that they are good; null where nobody knows of one. */
  powerGood: string | null;
  /** What lets the coils on, where they come after the button only. */
  enable: string | null;
}

/** 3.3 V and 5 V before the button. */
export function drawAlwaysOn(draft: Draft, { alwaysOn, input }: Choices, entry: Entry): AlwaysOn {
  const from = entry.main;
  const isDesktop = input === 'desktop-standby';
  const [three, five] = isDesktop ? ['3V3_SB', '5V_SB'] : ['3V3_ALW', '5V_ALW'];
  // Always a name both know: what was read under one is found under the other.
  const aliases = (net: string): string[] =>
    isDesktop ? [net.replace('_SB', '_ALW')] : [net.replace('_ALW', '_SB')];
  const rails = (): void => {
    draft.rail(five, 5, '5 V always on', { load: 0.03, aliases: aliases(five) });
    draft.rail(three, 3.3, '3.3 V always on', { load: 0.03, aliases: aliases(three) });
  };
  switch (alwaysOn) {
    case 'dual': {
      draft.rail('5V_LDO', 5, "dual regulator's own 5 V", { load: 0.003 });
      draft.rail('3V3_LDO', 3.3, "dual regulator's own 3.3 V", { load: 0.003 });
      rails();
      draft.signal('ALW_PG', 'always-on rails good', '3V3_LDO');
      draft.stage('5V_LDO', 'Small 5 V', ['5V_LDO'], { feed: from, limit: 0.15 });
      draft.stage('3V3_LDO', 'Small 3.3 V', ['3V3_LDO'], { feed: from, limit: 0.15 });
      draft.converter('5V_ALW', '5 V always on', five, {
        feed: from,
        after: ['5V_LDO > 4.4'],
        limit: 4,
      });
      draft.converter('3V3_ALW', '3.3 V always on', three, {
        feed: from,
        after: ['5V_LDO > 4.4'],
        powerGood: 'ALW_PG',
        limit: 4,
        delay: 0.002,
      });
      return { controller: three, three, five, powerGood: 'ALW_PG', enable: null };
    }
    case 'ldo-only':
      draft.rail('3V3_LDO', 3.3, 'small 3.3 V, all there is before the button', { load: 0.01 });
      rails();
      draft.signal('ALW_EN', 'lets the 3.3 V and 5 V coils on');
      draft.signal('ALW_PG', '3.3 V and 5 V good', '3V3_LDO');
      draft.stage('3V3_LDO', 'Small 3.3 V', ['3V3_LDO'], { feed: from, limit: 0.2 });
      return { controller: '3V3_LDO', three, five, powerGood: 'ALW_PG', enable: 'ALW_EN' };
    case 'separate':
    case null:
      rails();
      if (isDesktop) {
        draft.converter('5V_ALW', '5 V standby', five, { feed: from, limit: 4 });
        draft.signal('ALW_PG', 'standby rails good', three);
        draft.converter('3V3_ALW', '3.3 V standby', three, {
          feed: five,
          powerGood: 'ALW_PG',
          limit: 3,
        });
      } else {
        draft.signal('ALW_PG', 'always-on rails good', three);
        draft.converter('5V_ALW', '5 V always on', five, { feed: from, limit: 4 });
        draft.converter('3V3_ALW', '3.3 V always on', three, {
          feed: from,
          powerGood: 'ALW_PG',
          limit: 4,
          delay: 0.002,
        });
      }
      return { controller: three, three, five, powerGood: 'ALW_PG', enable: null };
  }
}

/** The coils that wait for the button, where only an LDO runs before it. */
export function drawLateCoils(draft: Draft, entry: Entry, always: AlwaysOn): void {
  if (always.enable === null) return;
  const enable = `${always.enable} > 1.5`;
  draft.converter('5V_ALW', '5 V', always.five, { feed: entry.main, enable, limit: 4 });
  draft.converter('3V3_ALW', '3.3 V', always.three, {
    feed: entry.main,
    enable,
    powerGood: 'ALW_PG',
    limit: 4,
    delay: 0.002,
  });
}
