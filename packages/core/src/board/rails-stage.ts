import type { PartRef } from './ids.ts';
import type { SheetBehaviour, SheetNeed, SheetStage } from './sheet-schema.ts';

/** Whether a stage says its feed itself, as at rails depth, instead of drawing chips. */
export const isRailsStage = (stage: SheetStage): boolean => stage.feed !== undefined;

/** The chip a rails-depth stage stands for: one regulator, or a signal that follows its needs. */
export function stageChip(
  id: string,
  stage: SheetStage,
): { ref: PartRef; pins: Map<string, string>; does: SheetBehaviour[] } {
  const pins = new Map<string, string>([['FEED', stage.feed as string]]);
  const needs: SheetNeed[] = [];
  const pinFor = (one: SheetNeed, pin: string): void => {
    pins.set(pin, one.at);
    needs.push({ ...one, at: pin });
  };
  if (stage.enable) pinFor(stage.enable, 'ENABLE');
  stage.after.forEach((one, index) => pinFor(one, `AFTER${index + 1}`));
  if (stage.powerGood) pins.set('PG', stage.powerGood);
  const pass = stage.pass ?? 'switching';
  const leastFeed = pass === 'switching' ? 2 : 0.4;
  const does: SheetBehaviour[] = stage.gives.map((given, index) => {
    pins.set(`OUT${index + 1}`, given);
    return {
      do: 'regulator',
      in: 'FEED',
      out: `OUT${index + 1}`,
      limit: stage.limit ?? 10,
      pass,
      efficiency: 0.9,
      dropout: pass === 'switch' ? 0 : 0.15,
      outOhms: 0.005,
      needs: [
        {
          at: 'FEED',
          side: 'above',
          volts: leastFeed,
          hysteresisVolts: leastFeed / 10,
          than: null,
        },
        ...needs,
      ],
      onDelay: stage.delay ?? 0.001,
      softStart: 0.002,
      overload: 'hiccup',
      ...(index === 0 && stage.powerGood ? { powerGood: 'PG' } : {}),
      powerGoodDelay: 0.005,
    };
  });
  return { ref: `${id} regulator`.replaceAll(' ', '-') as PartRef, pins, does };
}
