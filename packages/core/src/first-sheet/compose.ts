import { drawAlwaysOn, drawLateCoils } from './always-on.ts';
import { questions, type Choices, type UnknownBoard } from './choices.ts';
import { Draft, type Plain } from './draft.ts';
import { drawInput } from './input.ts';
import { drawBranches, drawRun } from './run.ts';
import { sheetText } from './sheet-text.ts';
import { drawHandshakeStages, drawReset, drawWake, drawWakeStages } from './wake.ts';

/**
 * A sheet at rails depth from a handful of choices. What is left open takes the commonest way, with
 * ranges instead of values where boards differ. Volts come from rules of thumb or are guesses, marked
 * net by net; loads, limits and times are guesses all, and the sheet says so in `guessed`.
 */
export function composeSheet({ title, marking, choices }: UnknownBoard, id: string): Plain {
  const draft = new Draft();
  const entry = drawInput(draft, choices);
  const hasBranch = (one: string): boolean => (choices.branches as string[]).includes(one);
  const always = drawAlwaysOn(draft, choices, entry);
  const hasLight = hasBranch('lights') && choices.controller !== 'none';
  if (hasLight) {
    drawPowerLight(draft, always.three);
  }
  drawWakeStages(draft, choices);
  drawLateCoils(draft, entry, always);
  const wake = drawWake(draft, choices, entry, always, hasLight, false);
  drawHandshakeStages(draft, choices);
  drawRun(draft, choices, entry, always, wake);
  drawReset(draft, choices);
  drawBranches(draft, choices.branches, entry, always);
  return {
    format: 'jiko-board/1',
    id,
    title,
    ...(marking ? { revision: marking.slice(0, 20) } : {}),
    depth: 'rails',
    notes: notesOf(choices),
    choices: writtenChoices(choices),
    guessed: ['loads', 'limits', 'times'],
    nets: draft.nets,
    parts: draft.parts,
    chips: draft.chips,
    stages: draft.stages,
    ...(Object.keys(draft.points).length > 0 ? { points: draft.points } : {}),
    sources: draft.sources,
    button: { net: 'BTN#', hold: 0.5, title: 'Power button' },
    attachments: draft.attachments,
    goals: draft.goals,
  };
}

/** The light that the controller pulls low once it has seen the button: what is seen of it can be ticked. */
function drawPowerLight(draft: Draft, feed: string): void {
  draft.signal('PWR_LED#', 'power light, pulled low when on', feed);
  draft.nets['PWR_LED_A'] = { kind: 'analog', title: 'power light, anode side' };
  draft.resistor(feed, 'PWR_LED_A', '1k', 'feeds the power light');
  draft.parts['POWER_LIGHT'] = {
    kind: 'led',
    title: 'power light',
    guess: true,
    pins: ['PWR_LED_A', 'PWR_LED#'],
  };
}

/** The same as text, to be kept and edited like any sheet. */
export const composeSheetText = (board: UnknownBoard, id: string): string =>
  sheetText(
    composeSheet(board, id),
    `${board.title}: a first sheet made by choices. Put right what you measure; names are Jiko's until you know the board's.`,
  );

function notesOf(choices: Choices): string {
  const said = questions.map(({ id, title, options }) => {
    const option = (options as readonly { id: string; title: string }[]).find(
      (one) => one.id === choices[id],
    );
    return `${title}: ${option ? option.title : 'left open'}.`;
  });
  return `Made by choices, no schematic. ${said.join(' ')} Volts are rules of thumb or guesses, said net by net; loads, limits and times are guesses.`;
}

function writtenChoices(choices: Choices): Plain {
  return Object.fromEntries(
    Object.entries(choices).filter(
      ([, value]) => value !== null && !(Array.isArray(value) && value.length === 0),
    ),
  );
}
