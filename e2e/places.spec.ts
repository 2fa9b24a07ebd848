import { plainReading } from '@jiko/testing';
import { expect, long, test, type Page } from './page.ts';
import { openJob, write } from './bench.ts';

// Where and in what state a point was read, and with what on the board: Trace says what follows from it.

const attached = ['battery', 'panel', 'storage'];
const source = { id: 'usb-c', volts: null, limitAmps: null };

/** Volts of Fell 13, at a pin where one is named; `state` as it is typed behind a value. */
const volts = (place: string, value: number, state?: 'warm' | 'pushed'): object => {
  const [net = '', at] = place.split('@');
  const [part = null, pin = null] = at?.split('.') ?? [];
  return {
    type: 'reading',
    supersedes: [],
    reading: {
      ...plainReading(
        net,
        'volts',
        'standby',
        { kind: 'number', value, trend: 'steady' },
        { attached },
      ),
      at: { net, part, pin },
      source,
      ...(state ? { state } : {}),
    },
  };
};

const record = (page: Page, ...bodies: object[]): Promise<void> =>
  write(page, ...(bodies as never[]));

test(
  'two pins of one net that differ are broken between: its test is the next step',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Fell 13 cut between its FETs');
    await record(page, volts('VBUS', 20), volts('VC_MID@Q1.S', 20), volts('VC_MID@Q2.S', 0.02));
    const step = page.locator('.probe.is-done');
    await expect(step.getByRole('heading')).toHaveText('VC_MID is broken between Q1.S and Q2.S', {
      timeout: 60_000,
    });
    await expect(step).toContainText('Source off: ohms from Q1.S to Q2.S.');
    await expect(page.getByText('it is one net, so the copper or a joint').first()).toBeVisible();
  },
);

test(
  'what shows while the board is warm is traced warm, and asked for so',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Fell 13 that fails when it is warm');
    await record(
      page,
      volts('5V_AON', 5),
      volts('5V_AON', 0.02, 'warm'),
      volts('5V_AON', 0.01, 'warm'),
    );
    await expect(page.locator('.probe')).toContainText('write "warm" behind the value');
    await expect(page.getByText('taken warm').first()).toBeVisible();
  },
);
