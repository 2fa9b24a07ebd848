import type { ReactNode } from 'react';

// Small drawings of our own of what one sees on the board: what the current goes through, from left to
// right; what is dim stays dead before the button.

type Glyph =
  | 'jack'
  | 'usb'
  | 'p-fet'
  | 'n-fet'
  | 'fuse'
  | 'coil'
  | 'dim-coil'
  | 'small-coil'
  | 'chip'
  | 'small-chip'
  | 'big-chip'
  | 'crystal'
  | 'button'
  | 'module'
  | 'module-chip'
  | 'squares'
  | 'or'
  | 'gap'
  | 'arrow';

const drawings: Record<string, readonly Glyph[]> = {
  'input:barrel-pfet': ['jack', 'p-fet', 'p-fet', 'arrow'],
  'input:barrel-nfet': ['jack', 'n-fet', 'n-fet', 'arrow'],
  'input:usb-c': ['usb', 'n-fet', 'n-fet', 'arrow'],
  'input:both': ['jack', 'p-fet', 'or', 'usb', 'n-fet'],
  'input:bus-charger': ['jack', 'small-chip', 'gap', 'chip', 'coil'],
  'input:desktop-standby': ['jack', 'small-coil', 'dim-coil', 'dim-coil'],
  'input:single': ['jack', 'fuse', 'coil'],
  'alwaysOn:dual': ['coil', 'chip', 'coil'],
  'alwaysOn:separate': ['small-chip', 'coil', 'gap', 'small-chip', 'coil'],
  'alwaysOn:ldo-only': ['small-chip', 'gap', 'dim-coil', 'dim-coil'],
  'controller:one': ['button', 'big-chip', 'crystal'],
  'controller:two': ['button', 'small-chip', 'arrow', 'big-chip'],
  'controller:none': ['button', 'arrow', 'big-chip'],
  'handshake:chipset': ['chip', 'arrow', 'big-chip', 'big-chip'],
  'handshake:soc': ['chip', 'arrow', 'big-chip'],
  'handshake:plain': ['coil', 'arrow', 'coil', 'arrow', 'coil'],
  'memory:ddr3': ['module', 'coil'],
  'memory:ddr3l': ['module', 'coil'],
  'memory:ddr4': ['module', 'coil', 'small-coil'],
  'memory:ddr5': ['module-chip'],
  'memory:lpddr4x': ['squares', 'big-chip'],
  'memory:lpddr5': ['squares', 'big-chip'],
  'phases:1': ['big-chip', 'coil'],
  'phases:2': ['big-chip', 'coil', 'coil'],
  'phases:3': ['big-chip', 'coil', 'coil', 'coil'],
  'phases:4': ['big-chip', 'coil', 'coil', 'coil', 'coil'],
  'phases:6': ['coil', 'coil', 'coil', 'big-chip', 'coil', 'coil', 'coil'],
};

const step = 26;
const height = 34;

/** What an option looks like on the board; nothing where there is no drawing of it. */
export function ChoiceDrawing({ of }: { of: string }) {
  const glyphs = drawings[of];
  if (!glyphs) return null;
  const width = glyphs.length * step;
  return (
    <svg
      className="choice-drawing"
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      aria-hidden
    >
      {glyphs.map((glyph, index) => (
        <g key={index} transform={`translate(${index * step} 0)`}>
          {shapes[glyph]}
        </g>
      ))}
    </svg>
  );
}

const lines = { fill: 'none', stroke: 'currentColor', strokeWidth: 1.4 } as const;
const coil = (dim: boolean): ReactNode => (
  <g opacity={dim ? 0.35 : 1}>
    <rect x={3} y={7} width={20} height={20} rx={4} {...lines} />
    <path d="M8 17c0-6 5-6 5 0s5 6 5 0" {...lines} />
  </g>
);
const fet = (letter: string): ReactNode => (
  <>
    <rect x={5} y={9} width={16} height={16} {...lines} />
    {[8, 13, 18].map((x) => (
      <path key={x} d={`M${x} 9v-3M${x} 25v3`} {...lines} />
    ))}
    <text x={13} y={21} fontSize={10} textAnchor="middle" fill="currentColor">
      {letter}
    </text>
  </>
);
const square = (size: number): ReactNode => (
  <>
    <rect x={13 - size / 2} y={17 - size / 2} width={size} height={size} {...lines} />
    <circle cx={13 - size / 2 + 3} cy={17 - size / 2 + 3} r={1.2} fill="currentColor" />
  </>
);
const module = (extra: ReactNode): ReactNode => (
  <>
    <path d="M1 8h24v18h-10v-3h-3v3H1z" {...lines} />
    {extra}
  </>
);

const shapes: Record<Glyph, ReactNode> = {
  jack: (
    <>
      <circle cx={13} cy={17} r={9} {...lines} />
      <circle cx={13} cy={17} r={2.5} fill="currentColor" />
    </>
  ),
  usb: (
    <>
      <rect x={2} y={11} width={22} height={12} rx={6} {...lines} />
      <path d="M8 17h10" {...lines} />
    </>
  ),
  'p-fet': fet('P'),
  'n-fet': fet('N'),
  fuse: (
    <>
      <rect x={4} y={12} width={18} height={10} rx={2} {...lines} />
      <path d="M4 17h18" {...lines} />
    </>
  ),
  coil: coil(false),
  'dim-coil': coil(true),
  'small-coil': <g transform="translate(5 6.5) scale(.62)">{coil(false)}</g>,
  chip: square(16),
  'small-chip': square(10),
  'big-chip': square(23),
  crystal: (
    <>
      <rect x={5} y={13} width={16} height={8} rx={4} {...lines} />
    </>
  ),
  button: (
    <>
      <rect x={3} y={8} width={20} height={18} rx={2} {...lines} />
      <circle cx={13} cy={17} r={5} {...lines} />
    </>
  ),
  module: module(<path d="M5 12h4v7H5zM11 12h4v7h-4zM17 12h4v7h-4z" {...lines} />),
  'module-chip': module(
    <>
      <rect x={4} y={11} width={6} height={6} {...lines} />
      <rect x={13} y={11} width={8} height={8} rx={2} {...lines} />
    </>,
  ),
  squares: <path d="M3 7h9v9H3zM14 7h9v9h-9zM3 18h9v9H3zM14 18h9v9h-9z" {...lines} />,
  or: (
    <text x={13} y={21} fontSize={11} textAnchor="middle" fill="currentColor">
      and
    </text>
  ),
  gap: null,
  arrow: <path d="M4 17h16m-5-4 5 4-5 4" {...lines} />,
};
