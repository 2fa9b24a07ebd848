import { chipPins } from './chip-pins.ts';
import { pinNames, valueUnit } from './part-value.ts';
import { chipKinds, partKinds, sheetJsonSchema } from './sheet-schema.ts';

interface Node {
  type?: string | string[];
  description?: string;
  enum?: unknown[];
  const?: unknown;
  default?: unknown;
  properties?: Record<string, Node>;
  additionalProperties?: Node | boolean;
  items?: Node;
  prefixItems?: Node[];
  anyOf?: Node[];
  oneOf?: Node[];
  required?: string[];
  pattern?: string;
  maxLength?: number;
}

/** Rooms of a sheet, in the order a sheet is written, with a line of example for each. */
const rooms: readonly { key: string; says: string; example: string }[] = [
  {
    key: 'nets',
    says: 'Every net by its name.',
    example:
      '3V3_ALW: { kind: rail, volts: 3.3, load: 0.05, origin: known-good, aliases: [+3VALW] }',
  },
  {
    key: 'parts',
    says: 'Passives, transistors, connectors by reference designator.',
    example:
      'R10: { kind: resistor, pins: [3V3_ALW, PWRBTN#], value: 47k, side: top, x: 62, y: 18 }',
  },
  {
    key: 'chips',
    says: 'Chips by reference designator, their pins by function.',
    example:
      'U6: { kind: buck, volts: 1.8, limit: 3, pins: { VIN: 5V_ALW, EN: S5_EN, OUT: 1V8_S5, PG: S5_PG, GND: GND } }',
  },
  {
    key: 'stages',
    says: 'Steps of the power-up a technician would name. Their order is computed, not typed.',
    example:
      'memory: { title: "Memory rail", gives: [1V2_MEM], feed: 5V_ALW, enable: SUS_EN > 1.5, powerGood: MEM_PG }',
  },
  {
    key: 'points',
    says: 'Places where a net can be probed.',
    example: 'TP4: { net: 1V2_MEM, title: "coil beside the memory", side: top, x: 88, y: 40 }',
  },
  {
    key: 'sources',
    says: 'What may feed the board.',
    example:
      'adapter: { kind: adapter, title: "19.5 V adapter", net: DC_IN, volts: 19.5, limit: 4.6 }',
  },
  {
    key: 'goals',
    says: 'What it means that the board is done.',
    example: 'boots: { title: boots, reached: [PLTRST# > 2], phase: run }',
  },
  {
    key: 'attachments',
    says: 'What can be unplugged: parts, stages and goals speak of it by its id.',
    example: 'panel: { title: Panel }',
  },
];

/**
 * docs/sheet.md, made from the schema and the kinds: every key, every kind of part and chip with its
 * pins, defaults and lines of example. A test holds the file against it.
 */
export function describeFormat(): string {
  const schema = sheetJsonSchema() as Node;
  const at = (key: string): Node => {
    const room = schema.properties?.[key] as Node;
    const entry = room.additionalProperties as Node;
    return entry.properties ? entry : ((entry.anyOf ?? []).find((one) => one.properties) ?? entry);
  };
  const single = Object.entries(schema.properties ?? {}).filter(
    ([key]) => !rooms.some((one) => one.key === key),
  );
  return [
    '# The board sheet',
    '',
    'Made by `npm run docs:sheet` from the schema and the kinds; the tests hold this page against them. The JSON Schema is served at `/api/sheet.schema.json` and printed by `npx jiko schema`.',
    '',
    'A sheet is YAML or JSON, `format: jiko-board/1`. Values may be numbers in volts, ohms, amps, farads, henries and seconds, or written as on a schematic: `4k7`, `2u2`, `0R01`, `19.5`. A need is written `NET > volts` or `NET < volts`; spelled out it is `{ at, above or below, hysteresis, than }`, `than` being another pin the volts are taken from. Names have no spaces and at most 64 characters; upper and lower case are the same name.',
    '',
    ...tenSteps,
    '',
    '## At the top',
    '',
    ...table(single, schema.required ?? []),
    '',
    ...rooms.flatMap(({ key, says, example }) => [
      `## ${key}`,
      '',
      says,
      '',
      '```yaml',
      `${key}:`,
      `  ${example}`,
      '```',
      '',
      ...table(Object.entries(at(key).properties ?? {}), at(key).required ?? []),
      '',
    ]),
    '## Kinds of parts',
    '',
    '| kind | pins, in this order where written as a list | value in |',
    '| --- | --- | --- |',
    ...partKinds.map(
      (kind) =>
        `| \`${kind}\` | ${pinNames[kind]?.map((pin) => `\`${pin}\``).join(', ') ?? 'any, by name or counted from 1'} | ${valueUnit[kind] ?? '-'} |`,
    ),
    '',
    '## Kinds of chips',
    '',
    'Pins are known by their function; any other pin may stand beside them. What a kind does by itself can be written over with `does`.',
    '',
    '| kind | pins it knows | what it does with them |',
    '| --- | --- | --- |',
    ...chipKinds.map((kind) => {
      const { pins, does } = chipPins[kind];
      return `| \`${kind}\` | ${pins.map((pin) => `\`${pin}\``).join(', ') || '-'} | ${does} |`;
    }),
    '',
    '## What a chip does',
    '',
    'A list of behaviours, `do` being one of these. `in`, `out` and the like name pins of the chip.',
    '',
    ...behaviours(at('chips')),
    '',
    '## Where a number comes from',
    '',
    '`origin` of a net decides how far a reading may stray before it is called wrong.',
    '',
    '| origin | rails within | others within |',
    '| --- | --- | --- |',
    '| `schematic`, `datasheet`, `known-good` | 5 % | 10 % |',
    '| `rule-of-thumb` | 7 % | 10 % |',
    '| `guess` | 10 % | 10 % |',
    '',
    'A net without volts of its own gets those its name tells (`+3V3_ALW`, `1V05_S5`, `5VALW`), as a rule of thumb. `guessed` at the top names figures nobody knows on this board (`loads`, `limits`, `times`): what they give is no evidence and draws no alarm. `guess: true` on a part says that it stands for something nobody looked up.',
    '',
  ].join('\n');
}

const tenSteps = [
  '## From nothing to boot in ten steps',
  '',
  '1. `format`, `id`, `title`, `depth: rails`, and a net `GND: { kind: ground }`.',
  '2. The net power comes in on, a `source` on it, and a stage that gives it.',
  '3. The main rail and what lies between: a stage with `feed`, or its FETs and their driver.',
  '4. The rails that are there before the button, each a stage with its `feed`; `powerGood` where there is one.',
  '5. The controller: a chip of kind `controller` with VCC, RST and SW, and the pull-up of the button line.',
  '6. `button: { net: ... }`.',
  '7. What the press lets on: suspend rails with `enable`, then RSMRST, the chipset and its SLP lines.',
  '8. Memory, run rails, core: stages with `feed`, `enable`, `after` and `powerGood`.',
  '9. PWROK and the platform reset: pins of controller and chipset.',
  '10. A goal: `boots: { title: boots, reached: [PLTRST# > 2] }`. Lint and the order of waking beside Edit, or `npx jiko lint`, say what is still missing.',
];

function table(entries: [string, Node][], required: readonly string[]): string[] {
  return [
    '| key | is | usual |',
    '| --- | --- | --- |',
    ...entries.map(([key, node]) => {
      const usual = required.includes(key)
        ? 'must be there'
        : node.default !== undefined
          ? `\`${JSON.stringify(node.default)}\``
          : '-';
      return `| \`${key}\` | ${kindOf(node).replaceAll('|', '\\|')} | ${usual} |`;
    }),
  ];
}

function kindOf(node: Node, deep = 0): string {
  if (node.description) return node.description;
  if (node.const !== undefined) return `\`${String(node.const)}\``;
  if (node.enum) return node.enum.map((one) => `\`${String(one)}\``).join(', ');
  const either = node.anyOf ?? node.oneOf;
  if (either) {
    const all = [...new Set(either.map((one) => kindOf(one, deep + 1)))];
    return all.join(' or ');
  }
  if (node.prefixItems)
    return `two values: ${node.prefixItems.map((one) => kindOf(one, deep + 1)).join(' and ')}`;
  if (node.type === 'array')
    return deep > 1 ? 'list' : `list of ${node.items ? kindOf(node.items, deep + 1) : 'anything'}`;
  if (node.properties) return `{ ${Object.keys(node.properties).join(', ')} }`;
  if (node.type === 'object')
    return `by name: ${typeof node.additionalProperties === 'object' ? kindOf(node.additionalProperties, deep + 1) : 'anything'}`;
  if (node.type === 'string' && node.maxLength) return `text, at most ${node.maxLength}`;
  return (
    {
      string: 'text',
      number: 'number',
      integer: 'whole number',
      boolean: '`true` or `false`',
      null: 'null',
    }[String(node.type)] ?? 'text'
  );
}

function behaviours(chip: Node): string[] {
  const items = chip.properties?.does?.items;
  return (items?.oneOf ?? items?.anyOf ?? []).flatMap((one) => {
    const name = String((one.properties?.do as Node | undefined)?.const ?? '');
    return [
      `### ${name}`,
      '',
      ...table(
        Object.entries(one.properties ?? {}).filter(([key]) => key !== 'do'),
        one.required ?? [],
      ),
      '',
    ];
  });
}
