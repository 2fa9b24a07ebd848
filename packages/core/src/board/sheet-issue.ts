/** What can be wrong with a sheet; wording in sheetIssueText. Lines count from 1; 0: not known. */
export type SheetIssue = { line: number; path: string } & (
  | { code: 'not-yaml'; text: string }
  | { code: 'not-a-sheet' }
  | { code: 'wrong-value'; text: string }
  | { code: 'unknown-net'; net: string; by: string }
  | { code: 'unknown-part'; part: string; by: string }
  | { code: 'unknown-pin'; pin: string; chip: string }
  | { code: 'unknown-attachment'; attachment: string }
  | { code: 'name-taken'; name: string; by: string }
  | { code: 'not-on-net'; place: string; net: string }
  | { code: 'cold-differs'; net: string; mode: 'ohms' | 'diode'; stated: number; played: number }
  | { code: 'no-ground' }
  | { code: 'two-grounds'; net: string }
  | { code: 'no-volts'; chip: string; net: string }
  | { code: 'pins-missing'; part: string; wanted: string }
  | { code: 'bad-part-value'; part: string; text: string }
  | { code: 'one-pin-net'; net: string; pin: string }
  | { code: 'lonely-net'; net: string }
  /** A pin the kind knows under a like name: it does nothing as it is written. */
  | { code: 'misspelt-pin'; chip: string; kind: string; pin: string; meant: string }
  | { code: 'undriven'; chip: string; pin: string; net: string }
  | { code: 'circular-need'; chips: string[] }
  /** `reached`: goals that the healthy play reaches all the same. */
  | { code: 'stage-never-up'; stage: string; because: string; reached: string[] }
  /** `heldBy`: who gives the net what it has in the play, in the sheet's own names. */
  | {
      code: 'volts-differ';
      net: string;
      statedVolts: number;
      playedVolts: number;
      heldBy: string;
    }
  | { code: 'goal-not-reached'; goal: string; net: string }
  /** Nothing feeds the board: it cannot be played. */
  | { code: 'no-source' }
  /** Nothing comes up on this source, and no goal is reached with it. */
  | { code: 'source-for-nothing'; source: string; net: string }
);

/** Issues that stop a sheet from being used; the others are warnings. */
export function stopsUse(issue: SheetIssue): boolean {
  switch (issue.code) {
    case 'one-pin-net':
    case 'lonely-net':
    case 'misspelt-pin':
    case 'undriven':
    case 'circular-need':
    case 'stage-never-up':
    case 'volts-differ':
    case 'cold-differs':
    case 'goal-not-reached':
    case 'source-for-nothing':
    case 'no-source':
      return false;
    default:
      return true;
  }
}

export function sheetIssueText(issue: SheetIssue): string {
  const where = issue.line > 0 ? `Line ${issue.line}: ` : issue.path ? `${issue.path}: ` : '';
  return where + wording(issue);
}

function wording(issue: SheetIssue): string {
  switch (issue.code) {
    case 'not-yaml':
      return `this is not readable YAML or JSON: ${issue.text}`;
    case 'not-a-sheet':
      return 'this is not a board sheet: it must start with "format: jiko-board/1".';
    case 'wrong-value':
      return `${issue.path}: ${issue.text}`;
    case 'unknown-net':
      return `${issue.by} is on net ${issue.net}, which is not in the list of nets.`;
    case 'unknown-part':
      return `${issue.by} names ${issue.part}, which is not in the list of parts or chips.`;
    case 'unknown-pin':
      return `${issue.chip} speaks of its pin ${issue.pin}, which it does not have.`;
    case 'unknown-attachment':
      return `${issue.path} names the attachment ${issue.attachment}, which is not in the list of attachments.`;
    case 'name-taken':
      return `${issue.by} uses the name ${issue.name}, which is taken already.`;
    case 'not-on-net':
      return `${issue.place} is listed along the copper of ${issue.net}, but no such place is on that net.`;
    case 'cold-differs':
      return `${issue.net} is stated to read ${issue.stated} ${issue.mode === 'ohms' ? 'Ω' : 'V in diode-mode'} cold, but what the sheet draws reads ${issue.played}: what was stated cannot be so high beside it.`;
    case 'no-ground':
      return 'no net is of kind ground.';
    case 'two-grounds':
      return `${issue.net} is a second net of kind ground; one is allowed.`;
    case 'no-volts':
      return `${issue.chip} makes ${issue.net}, but neither the chip nor the net says how many volts.`;
    case 'pins-missing':
      return `${issue.part} needs the pins ${issue.wanted}.`;
    case 'bad-part-value':
      return `${issue.part}: ${issue.text}`;
    case 'one-pin-net':
      return `net ${issue.net} has one pin only (${issue.pin}): a name typed wrong, or a part not drawn yet?`;
    case 'lonely-net':
      return `net ${issue.net} has no pin at all.`;
    case 'misspelt-pin':
      return `${issue.chip}: ${issue.pin} is not a pin of a ${issue.kind}, and does nothing: ${issue.meant}?`;
    case 'undriven':
      return `${issue.chip} waits for its pin ${issue.pin} on ${issue.net}, but nothing drives ${issue.net}.`;
    case 'circular-need':
      return `these wait for each other in a circle: ${issue.chips.join(' → ')}.`;
    case 'stage-never-up':
      return `stage "${issue.stage}" never comes up on a healthy board: ${issue.because}.${
        issue.reached.length > 0
          ? ` ${issue.reached.map((one) => `"${one}"`).join(', ')} ${issue.reached.length > 1 ? 'count' : 'counts'} as reached all the same: does the goal want too little?`
          : ''
      }`;
    case 'volts-differ':
      return `${issue.net} is stated as ${issue.statedVolts} V but the healthy play gives ${issue.playedVolts} V${issue.heldBy && `: ${issue.heldBy}`}.`;
    case 'goal-not-reached':
      return `a healthy board does not reach the goal "${issue.goal}": ${issue.net} does not come.`;
    case 'no-source':
      return 'the sheet names no source yet: until one stands under "sources" nothing can be played or expected.';
    case 'source-for-nothing':
      return `nothing comes up with ${issue.source} alone: does anything lead on from ${issue.net}?`;
  }
}
