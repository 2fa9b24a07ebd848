import type { Board, NetId } from '../board/index.ts';

/** Words for places on a board, and what in a net's or stage's own words they speak for. Common practice, no source. */
const meanings: readonly (readonly [RegExp, RegExp])[] = [
  [/\b(memory|mem|dimm|ram|ddr\w*|slot)\b/i, /memory|MEM|VTT|VDDQ|VPP/],
  [/\b(cpu|processor|core|vrm)\b/i, /core/i],
  [/\b(jack|barrel|dc.?in|adapter plug)\b/i, /barrel input|\binput\b|DC_IN/],
  [/\b(usb.?c|type.?c)\b/i, /USB-C/],
  [/\b(between|middle|mid)\b/i, /between/],
  [/\b(gate|gates)\b/i, /gate/i],
  [/\b(ssd|m\.?2|drive|storage|sata)\b/i, /storage/],
  [/\b(panel|lcd|screen|edp)\b/i, /panel/],
  [/\b(backlight|led string)\b/i, /backlight/],
  [/\b(battery)\b/i, /charging|battery/],
  [/\b(fan)\b/i, /\bfan\b/i],
  [/\b(button|switch pad)\b/i, /button/],
  [/\b(flash|rom|controller|ec)\b/i, /3\.3 V always|controller/],
  [/\b(main|big coil|charger)\b/i, /main rail/],
  [/\b(chipset|pch|soc)\b/i, /suspend|chipset|chip\b/],
  [/\b(ldo|small)\b/i, /\bown\b|small/],
  [/\b(reset)\b/i, /reset/i],
];

/** How much a word that fits makes a net likelier. */
const wordFactor = 7;

/** Nets the words of a point speak for. */
export function wordsFor(board: Board, words: string): Map<NetId, { log: number; word: string }> {
  const told = new Map<NetId, { log: number; word: string }>();
  for (const [said, fits] of meanings) {
    const word = said.exec(words)?.[0];
    if (!word) continue;
    const fitting = board.nets.filter((net) => {
      const stage = board.stages.find((one) => one.gives.includes(net.id));
      return (
        fits.test(net.title) || fits.test(net.id) || (stage !== undefined && fits.test(stage.title))
      );
    });
    for (const net of fitting) {
      const before = told.get(net.id)?.log ?? 0;
      told.set(net.id, { log: before + Math.log(wordFactor), word });
    }
  }
  return told;
}
