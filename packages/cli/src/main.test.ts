import { createRequire } from 'node:module';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { describe, expect, it } from 'vitest';
import { loadSheet } from '@jiko/core/board';
import { parseKicadNetlist } from '@jiko/core/formats';
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

/** A sheet that names nothing that feeds it. */
const sourceless = join(mkdtempSync(join(tmpdir(), 'jiko-')), 'sourceless.yaml');
writeFileSync(
  sourceless,
  readFileSync(sheet('beck-mini'), 'utf8').replace(/^sources:\n(?: .*\n)+/m, 'sources: {}\n'),
);

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

describe('jiko schema', () => {
  it('prints the JSON Schema that a sheet is checked by', async () => {
    const { code, out } = await run('schema');
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({
      required: expect.arrayContaining(['format', 'nets', 'stages']) as string[],
      properties: { format: { const: 'jiko-board/1' } },
    });
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
    [['play', sourceless], 1, 'names no source'],
    [['diagnose', sourceless, '--readings', 'r.csv'], 1, 'names no source'],
    [['export', sourceless, '--as', 'dictionary-csv'], 1, 'names no source'],
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

describe('jiko diagnose', () => {
  const file = (name: string, text: string): string => {
    const path = join(mkdtempSync(join(tmpdir(), 'jiko-')), name);
    writeFileSync(path, text);
    return path;
  };
  interface Answer {
    verdicts: { net: string; kind: string; why: string }[];
    firstMissing: { stage: string } | null;
    suspects: {
      title: string;
      probability: number;
      faults: { name: string }[];
      separate: { text: string } | null;
    }[];
    next: { net: string; gainBits: number; outcomes: { then: string[] }[] }[];
    nextStep: Record<string, { kind: string }>;
    caution: string;
    differs: string | null;
    fets: unknown[];
  }

  it('holds readings against every fault: verdicts, stage, suspects with their test, next probes', async () => {
    const readings = file(
      'readings.csv',
      'net,point,mode,phase,value,note\r\n3V3_A,,volts,standby,3.3,\r\n,Q2.D,volts,standby,18.98,"at Q2, drain"\r\nEN_M,,volts,trying,3v28,\r\n1V2_DDR,,volts,trying,0.02,\r\n1V2_DDR,,ohms,cold,0R1,\r\n',
    );
    const signs = file(
      'signs.yaml',
      'source: adapter\ngoal: boots\ndraw:\n  standby: { amps: 0.026, shape: steady }\nfan: false\noffAfterSeconds: 0.4\nbeeps: none\n',
    );
    const findings = file('findings.yaml', '- { part: C16, kind: corrosion }\n');
    const { code, out, said } = await run(
      ...[
        'diagnose',
        sheet('heron-15'),
        '--readings',
        readings,
        '--signs',
        signs,
        '--findings',
        findings,
      ],
    );
    expect(said).toBe('');
    expect(code).toBe(0);
    const answer = JSON.parse(out) as Answer;
    expect(answer.verdicts.map((one) => one.kind)).toEqual([
      'good',
      expect.anything(),
      'good',
      expect.anything(),
      'shorted',
    ]);
    expect(answer.firstMissing?.stage).toBe('memory');
    expect(answer.suspects[0]?.title).toBe('Low resistance on 1V2_DDR');
    expect(answer.suspects[0]?.probability).toBeGreaterThan(0.95);
    // The corroded one leads its group.
    expect(answer.suspects[0]?.faults[0]?.name).toBe('C16 short');
    expect(answer.suspects[0]?.separate?.text).toContain('L5');
    // And what the middle of the page would say, school by school, with the caution of the phase.
    expect(Object.keys(answer.nextStep)).toEqual(['walk', 'shortest', 'looks']);
    for (const step of Object.values(answer.nextStep))
      expect(['in-order', 'telling', 'test']).toContain(step.kind);
    expect(answer.caution).toContain('Source off, battery unplugged');
    expect(answer.differs).toBeNull();
    expect(answer.fets).toEqual([]);
  });

  it.each([
    ['net,mode,phase,value\nVMAIN,volts,noon,19', 'line 2: there is no phase "noon"'],
    [
      'net,mode,phase,value\nVMAIN,volts,standby,19\nNOWHERE,volts,standby,1',
      'line 3: there is no net or point "NOWHERE"',
    ],
    ['net,mode,phase,value\nVMAIN,volts,standby,much', 'line 2: '],
    ['net,mode,phase,value\nVMAIN,smell,standby,1', 'line 2: there is no mode "smell"'],
    ['net,mode,value\nVMAIN,volts,1', 'line 1: the column phase is missing'],
    [
      'net,mode,phase,value\n3V3_ALW,volts,standby,3,29',
      'line 2: 5 cells for 4 columns. Is "3,29" one number?',
    ],
    ['net,mode,phase,value\nVMAIN,volts,standby,329', 'In the file 329! says so.'],
    ['net,mode,phase,value,colour\nVMAIN,volts,standby,1,red', 'there is no column colour'],
  ])('names the line of what it cannot read: %j', async (csv, text) => {
    const { code, out, said } = await run(
      'diagnose',
      sheet('cairn-14'),
      '--readings',
      file('r.csv', csv),
    );
    expect(code).toBe(1);
    expect(out).toBe('');
    expect(said).toContain(text);
  });

  it('names what is wrong with signs and findings', async () => {
    const readings = file('r.csv', 'net,mode,phase,value\nVMAIN,volts,standby,19.5\n');
    const bad = await run(
      ...['diagnose', sheet('cairn-14'), '--readings', readings],
      ...['--signs', file('s.yaml', 'fan: true\ngoal: flies\n')],
      ...['--findings', file('f.yaml', '- { part: C999, kind: burnt }\n')],
    );
    expect(bad.code).toBe(1);
    expect(bad.said).toContain('line 2: goal: there is no flies');
    expect(bad.said).toContain('line 1: there is no part C999');
    expect((await run('diagnose', sheet('cairn-14'))).code).toBe(2);
  });
});

describe('jiko import and export', () => {
  const folder = mkdtempSync(join(tmpdir(), 'jiko-'));
  const keep = (name: string, text: string): string => {
    const file = join(folder, name);
    writeFileSync(file, text);
    return file;
  };
  interface Answer {
    format: string;
    done: string[];
    left: string[];
    troubles: { line: number; why: string }[];
    sheet: string;
  }
  const imported = async (...words: string[]): Promise<Answer> => {
    const { code, out, said } = await run('import', ...words);
    expect([code, code === 0 ? '' : said]).toEqual([0, '']);
    return JSON.parse(out) as Answer;
  };

  it('read a netlist of a real board as another reader does (tests of kicad-netlist-to-json 0.0.9)', async () => {
    const require = createRequire(import.meta.url);
    const file = require.resolve('kicad-netlist-to-json/test/uhk-left-main.net');
    const answer = await imported(file);
    const expected = JSON.parse(
      readFileSync(require.resolve('kicad-netlist-to-json/test/uhk-left-main.json'), 'utf8'),
    ) as {
      export: {
        components: { comp: { ref: string; value: string }[] };
        nets: { net: { name: string; node: { ref: string; pin: string }[] }[] };
      };
    };
    const { netlist, troubles } = parseKicadNetlist(readFileSync(file, 'utf8'));
    expect(troubles).toEqual([]);
    const { components, nets } = expected.export;
    expect(netlist?.parts.map((one) => one.ref)).toEqual(components.comp.map((one) => one.ref));
    expect(netlist?.nets.map((one) => one.pins.map(({ ref, pin }) => `${ref}.${pin}`))).toEqual(
      nets.net.map((one) => [one.node].flat().map(({ ref, pin }) => `${ref}.${pin}`)),
    );
    const loaded = loadSheet(answer.sheet);
    if (!loaded.ok) throw new Error('the sheet does not load');
    expect(loaded.value.nets.length).toBeGreaterThan(40);
    // Nothing is left out without a word: every part is on the sheet or said to be open.
    for (const { ref } of components.comp)
      expect([
        ref,
        [...loaded.value.parts, ...loaded.value.chips].some((one) => one.ref === ref) ||
          answer.left.some((one) => one.startsWith(`${ref}:`)),
      ]).toEqual([ref, true]);
  });

  it('there and back change nothing, in every format that can be read', async () => {
    for (const format of ['kicad', 'ipc-d-356', 'parts-csv', 'nets-csv']) {
      const { code, out } = await run('export', sheet('cairn-14'), '--as', format);
      expect(code).toBe(0);
      const file = keep(`cairn.${format}`, out);
      const { done, troubles } = await imported(file, '--into', sheet('cairn-14'));
      expect([format, done, troubles]).toEqual([format, [], []]);
    }
  });

  it('JSON is the same sheet', async () => {
    const { out } = await run('export', sheet('fell-13'), '--as', 'json');
    const [json, yaml] = [out, readFileSync(sheet('fell-13'), 'utf8')].map((text) =>
      loadSheet(text),
    );
    if (!json?.ok || !yaml?.ok) throw new Error('a sheet does not load');
    expect({ ...json.value, hash: '' }).toEqual({ ...yaml.value, hash: '' });
    const back = await run('export', keep('fell.json', out), '--as', 'yaml');
    expect(back.out).toMatch(/^format: jiko-board\/1/);
  });

  it('take a schematic into a new sheet', async () => {
    const file = sheet('fell-13').replace('.yaml', '.schematic.pdf');
    const { format, sheet: text } = await imported(file, '--id', 'read');
    expect(format).toBe('pdf');
    const loaded = loadSheet(text);
    expect(loaded.ok && loaded.value.id).toBe('read');
    expect(loaded.ok && loaded.value.nets.some((one) => one.id === '3V3_AON')).toBe(true);
  });

  it('say what is wrong, and write nothing', async () => {
    const wrong = async (...words: string[]) => {
      const { code, out, said } = await run('import', ...words);
      expect(out).toBe('');
      return `${code} ${said.trim()}`;
    };
    expect(await wrong(keep('a.net', '(export (nets (net'))).toMatch(
      /^1 Line 1: the file ends with 3/,
    );
    expect(await wrong(keep('b.txt', 'hello'))).toMatch(/^1 this is no KiCad netlist/);
    expect(await wrong(keep('c.pdf', '%PDF-1.7 broken'))).toMatch(/^1 .*broken beyond reading/);
    expect(await wrong('nowhere.net')).toMatch(/^1 nowhere.net cannot be read/);
    expect(await wrong()).toMatch(/^2 Say which file/);
    const none = await run('export', sheet('beck-mini'), '--as', 'ipc-d-356');
    expect([none.code, none.said.trim()]).toEqual([1, expect.stringContaining('gives no places')]);
    expect((await run('export', sheet('beck-mini'), '--as', 'word')).code).toBe(2);
  });
});
