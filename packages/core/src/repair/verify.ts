import { goalTitle, type Board, type NetId } from '../board/index.ts';
import { hasNoBattery } from '../prepare/index.ts';
import { batteryCharge, type HealthyBoard } from '../expectations/index.ts';
import { leastCellVolts } from '../readings/index.ts';
import { isMended, type Job } from '../record/index.ts';
import { cautionText } from '../safety/index.ts';
import { formatAmps, formatVolts } from '../units/index.ts';

/** One line of what is checked before a board goes back. */
export interface VerifyItem {
  id: string;
  title: string;
  how: string;
  /** Where it can hurt. */
  caution: string | null;
  state: 'open' | 'passed' | 'failed' | 'left-out';
  text: string;
  /** Minutes it takes; null where it takes none. */
  minutes: number | null;
  /** The wait that was begun for it and is not over, with its end. */
  wait: { id: string; until: string | null } | null;
}

/** A soak of a boot fault: common practice, no source. */
export const soakMinutes = 60;

/** What to check from the board, the fault and what was touched; what was said before the last change is open again. */
export function verifyList(healthy: HealthyBoard, job: Job): VerifyItem[] {
  const { board } = healthy;
  const touched = new Set(
    job.repairs.filter((one) => one.struck === null).flatMap(({ body }) => body.parts),
  );
  const has = (test: (id: string) => boolean): boolean =>
    board.attachments.some((one) => test(one.id));
  const goal = job.intake?.goal ?? '';
  const charger = hasNoBattery(job) ? null : (batteryCharge(board)?.charge ?? null);
  const firmware = job.firmware.filter((one) => one.struck === null);
  const reprogrammed = job.repairs.some(
    (one) => one.struck === null && one.body.action === 'reprogrammed',
  );
  const missing = job.findings.filter(
    (one) => one.struck === null && one.harmless === null && one.body.kind === 'missing',
  );
  const items: (Omit<VerifyItem, 'state' | 'text' | 'minutes' | 'wait'> | false)[] = [
    {
      id: 'goal',
      title: goal ? `The board ${goalTitle(board, goal)}` : 'It does what it was brought for',
      how: 'On its own source, three times from off, closed up as far as the test allows.',
      caution: null,
    },
    {
      id: 'rails',
      title: 'Every rail on the way reads right',
      how: 'Retest the stages in order; under load as well as at rest.',
      caution: cautionText('test-rails'),
    },
    {
      id: 'draw',
      title: 'The draw is that of a good one',
      how: 'Amps from the source off, on, and running; against what the sheet or a good board draws.',
      caution: null,
    },
    charger !== null && {
      id: 'charging',
      title: 'It charges its battery',
      how: `A pre-charge first${charger.prechargeAmps === null ? '' : ` (about ${formatAmps(charger.prechargeAmps)})`}, then up to ${formatAmps(charger.amps)}${charger.isGuess ? ' (a guess: nobody knows what this charger is set to)' : ''}; it ends when full.`,
      caution: cautionText('charge', { chargeLimit: formatAmps(charger.amps) }),
    },
    has((id) => id === 'panel') && {
      id: 'picture',
      title: 'Picture, and its light over the whole range',
      how: 'On its own panel; dim and bright, lid closed and opened.',
      caution: null,
    },
    has((id) => id === 'storage') && {
      id: 'storage',
      title: 'It finds its storage',
      how: 'Listed by name; a file read back. Nothing is written to a disk that holds data to be kept.',
      caution: job.intake?.keep ? `To be kept: ${job.intake.keep}.` : null,
    },
    board.nets.some((one) => /USB/i.test(one.id)) && {
      id: 'ports',
      title: 'Ports',
      how: 'Each USB port with a load, sound, network.',
      caution: null,
    },
    has((id) => id === 'fan') && {
      id: 'fan',
      title: 'The fan turns up under load and down again',
      how: 'Cooler seated, paste, pads; ten minutes of load.',
      caution: cautionText('test-fan'),
    },
    board.nets.some((one) => /RTC|COIN/i.test(one.id)) && {
      id: 'settings',
      title: 'Settings and clock outlast a night without power',
      how: `Source off and battery out for some minutes; the coin cell ${formatVolts(leastCellVolts)} or more.`,
      caution: null,
    },
    (reprogrammed || firmware.length > 0) && {
      id: 'firmware',
      title: 'Firmware verified, identity and settings of this board in it',
      how: 'Read back and compared; serial number and network address as before.',
      caution: null,
    },
    missing.length > 0 && {
      id: 'missing',
      title: `Missing parts: ${missing.map((one) => one.body.part).join(', ')}`,
      how: 'Fitted, or knowingly left off.',
      caution: null,
    },
    sourceIsSuspect(board, job, touched) && {
      id: 'source',
      title: 'The source itself, before the device goes back to it',
      how: 'Its volts idle and under a load of its rating, the plug wiggled; another one if in doubt.',
      caution: cautionText('test-source'),
    },
    {
      id: 'soak',
      title: `A soak of ${soakMinutes} min`,
      how: 'Running, warm, then cold again: goes off, restarts, or stays.',
      caution: null,
    },
  ];
  const said = new Map(
    job.verified.filter((one) => !one.beforeRepair).map(({ body }) => [body.item, body] as const),
  );
  const soak = job.waits.findLast(
    (one) => one.struck === null && one.over === null && one.body.reason === 'soak',
  );
  return items.flatMap((one): VerifyItem[] => {
    if (one === false) return [];
    const known = said.get(one.id);
    const isSoak = one.id === 'soak';
    return [
      {
        ...one,
        state: known?.result ?? 'open',
        text: known?.text ?? '',
        minutes: isSoak ? soakMinutes : null,
        wait: isSoak && soak ? { id: soak.id, until: soak.body.until } : null,
      },
    ];
  });
}

/** Lightning, or a part that dies by the volts of its source. */
function sourceIsSuspect(board: Board, job: Job, touched: ReadonlySet<string>): boolean {
  const inputs = new Set<NetId>(board.sources.map((one) => one.net));
  return (
    (job.intake?.happened ?? []).includes('lightning') ||
    board.parts.some(
      (one) =>
        touched.has(one.ref) && (one.kind === 'tvs' || one.pins.some((pin) => inputs.has(pin.net))),
    )
  );
}

/** Closed as working, or in part: then what nobody checked is said as well. */
export const isSaidToWork = ({ close }: Pick<Job, 'close'>): boolean =>
  close !== null && (isMended(close.body.outcome) || close.body.outcome === 'partly');
