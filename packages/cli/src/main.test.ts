import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { describe, expect, it } from 'vitest';
import { main } from './main.ts';

const sheet = (id: string): string =>
  new URL(`../../../sheets/${id}.yaml`, import.meta.url).pathname;

async function run(...words: string[]): Promise<{ code: number; out: string; said: string }> {
  const kept = { out: '', said: '' };
  const into = (name: 'out' | 'said'): Writable =>
    new Writable({
      write(chunk, _encoding, done) {
        kept[name] += String(chunk);
        done();
      },
    });
  const code = await main(words, into('out'), into('said'));
  return { code, ...kept };
}

interface Played {
  status: string;
  faults: { name: string }[];
  phases: Record<
    string,
    { sourceAmps: number; volts: Record<string, number>; swinging: Record<string, unknown> }
  >;
}

describe('jiko lint', () => {
  it('finds nothing to say about a clean sheet', async () => {
    const { code, out, said } = await run('lint', sheet('cairn-14'));
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({ usable: true, issues: [] });
    expect(said).toBe('');
  });
  it('names the line of what stops a sheet, and exits with 1', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'jiko-')), 'broken.yaml');
    writeFileSync(
      file,
      readFileSync(sheet('cairn-14'), 'utf8').replace(
        'pins: [VIN_JACK, VIN_F]',
        'pins: [VIN_JACK, VIN_G]',
      ),
    );
    const { code, out, said } = await run('lint', file);
    expect(code).toBe(1);
    expect(said).toMatch(/^Line \d+: F1 is on net VIN_G/);
    expect(JSON.parse(out).issues[0]).toMatchObject({ code: 'unknown-net', stops: true });
  });
});

describe('jiko play', () => {
  it('plays a healthy board', async () => {
    const { code, out } = await run('play', sheet('cairn-14'));
    const played = JSON.parse(out) as Played;
    expect(code).toBe(0);
    expect(played.status).toBe('settled');
    expect(played.phases['standby']?.volts['3V3_ALW']).toBeCloseTo(3.3, 2);
    expect(played.phases['run']?.volts['PLTRST#']).toBeGreaterThan(3);
  });
  it('plays several faults, in one phase', async () => {
    const { code, out } = await run(
      'play',
      sheet('cairn-14'),
      '--fault',
      'C50:short=0.1',
      '--fault',
      'U32.EN:trace-open',
      '--phase',
      'trying',
    );
    const played = JSON.parse(out) as Played;
    expect(code).toBe(0);
    expect(played.faults.map((one) => one.name)).toEqual(['C50 short', 'U32 pin EN: trace open']);
    expect(Object.keys(played.phases)).toEqual(['trying']);
    expect(played.phases['trying']?.volts['1V2_MEM']).toBeLessThan(0.9);
  });
  it('reads the unpowered board, and with the battery in it charges', async () => {
    const cold = await run('play', sheet('cairn-14'), '--phase', 'cold', '--fault', 'C14:short=2');
    const readings = (JSON.parse(cold.out) as { cold: Record<string, Record<string, unknown>> })
      .cold;
    expect(readings['ohms']?.['3V3_ALW']).toBeCloseTo(2, 1);
    expect(readings['ohms']?.['PH_CHG']).not.toBe('OL');
    const battery = await run('play', sheet('cairn-14'), '--attached', 'battery,panel');
    const played = JSON.parse(battery.out) as Played;
    expect(played.phases['standby']?.volts['VBAT']).toBeGreaterThan(11.5);
    expect(battery.out).toContain('charges in full');
    const limited = await run(
      'play',
      sheet('cairn-14'),
      '--source',
      'bench',
      '--supply',
      '19.5@0.01',
    );
    // Ten milliamps feed the driver, not the board behind it: on and off.
    expect((JSON.parse(limited.out) as Played).phases['standby']?.swinging['VIN']).toBeDefined();
  });
  it('exports the circuit for other programs, and every single fault as a matrix', async () => {
    const spice = await run('export', sheet('beck-mini'), '--as', 'spice');
    expect(spice.out).toMatch(/^\* Beck mini running\n[\s\S]*\.end\n$/);
    const csv = await run('export', sheet('beck-mini'), '--as', 'dictionary-csv');
    expect(csv.code).toBe(0);
    expect(csv.out).toContain('run5-regulator dead,volts run,yes,');
  });
  it.each([
    [['play', sheet('cairn-14'), '--attached', 'anchor'], 1, 'nothing called anchor'],
    [['play', sheet('cairn-14'), '--supply', 'much'], 2, 'no supply setting'],
    [['export', sheet('cairn-14')], 2, 'Say what to export'],
    [['play', sheet('beck-mini'), '--fault', 'C99:short'], 1, 'no part, chip or net C99'],
    [['play', sheet('cairn-14'), '--fault', 'U20.EN9:short'], 1, 'U20 has no pin EN9'],
    [['play', sheet('cairn-14'), '--fault', 'R1:dead'], 1, 'R1 cannot be dead'],
    [['play', sheet('cairn-14'), '--fault', 'gibberish'], 1, 'is not a fault'],
    [['play', sheet('cairn-14'), '--source', 'wind'], 1, 'no source wind'],
    [['play', 'nowhere.yaml'], 1, 'cannot be read'],
    [['play', sheet('cairn-14'), '--phase', 'noon'], 2, 'no phase noon'],
    [['play'], 2, 'Name the sheet'],
    [['play', sheet('cairn-14'), '--shout'], 2, 'shout'],
    [['fly'], 2, 'no command fly'],
  ])('%j exits with %i', async (words, code, text) => {
    const answer = await run(...words);
    expect(answer.code).toBe(code);
    expect(answer.said).toContain(text);
    expect(answer.out).toBe('');
  });
});
