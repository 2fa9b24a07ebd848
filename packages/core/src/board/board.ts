import type { GoalId, NetId, PartRef, SourceId, StageId } from './ids.ts';
import type { ChipKind, Origin, PartKind, Sheet } from './sheet-schema.ts';

/** A board, checked and with every default filled in. Made only by loadSheet. */
export interface Board {
  id: string;
  title: string;
  revision: string;
  /** Name of the sheet's content: which version a reading was judged by. */
  hash: string;
  depth: Sheet['depth'];
  notes: string;
  /** Figures nobody knows on this board. */
  guessed: Sheet['guessed'];
  /** What a first sheet was made from; null for one written otherwise. */
  choices: Record<string, unknown> | null;
  ground: NetId;
  nets: Net[];
  parts: Part[];
  chips: Chip[];
  /** In the order they are written; the order of waking comes from the play. */
  stages: Stage[];
  points: Point[];
  sources: Source[];
  goals: Goal[];
  button: Button | null;
  attachments: { id: string; title: string }[];
}

/** The button that wakes the board, by the part it is; a name of its own where none is drawn. */
export interface Button {
  net: NetId;
  holdSeconds: number;
  title: string;
  part: PartRef;
}

/** A pin or pad of a net, by part and pin. */
export interface NetPlace {
  ref: string;
  pin: string;
}

export interface Net {
  id: NetId;
  aliases: string[];
  title: string;
  kind: 'ground' | 'rail' | 'signal' | 'switch' | 'analog';
  /** What the sheet says it should read when up; null where it says nothing. */
  volts: number | null;
  /** Rails set by a processor have a range, not a value. */
  rangeVolts: [number, number] | null;
  tolerance: number | null;
  loadAmps: number;
  coldOhms: number | null;
  coldDiodeVolts: number | null;
  origin: Origin;
  /** What good boards read here, where closed jobs say it. */
  good?: GoodNet;
  /** A point of one's own: which net it is nobody knows yet. */
  isUnnamed: boolean;
  /** Its places in their order along the copper, from the feed on; empty where nobody said. */
  along: NetPlace[];
}

/** Good boards behind the cold figures of a net, and the volts they read in each phase. */
export interface GoodNet {
  ohms?: number;
  diode?: number;
  volts: Readonly<Record<string, { volts: number; spread: number; boards: number }>>;
}

export interface Place {
  side: 'top' | 'bottom' | null;
  x: number | null;
  y: number | null;
}

export interface Part extends Place {
  ref: PartRef;
  kind: PartKind;
  title: string;
  /** In the order written: 1 then 2, anode then cathode. */
  pins: { name: string; net: NetId }[];
  /** Ohms, farads, henries or volts by kind; null where not stated. */
  value: number | null;
  valueText: string;
  /** That it joins these nets is a guess. */
  isGuess: boolean;
  /** Drawn but not populated on this board: different from missing. */
  fitted: boolean;
  marking: string;
  package: string;
  /** The attachment it goes with. */
  on: string | null;
}

export interface Chip extends Place {
  ref: PartRef;
  kind: ChipKind;
  title: string;
  pins: ReadonlyMap<string, NetId>;
  /** Numbers in the package by pin; not every sheet has them. */
  numbers: ReadonlyMap<string, string>;
  draws: { pin: string; amps: number }[];
  behaviours: Behaviour[];
  fitted: boolean;
  marking: string;
  /** Supply pin that its signal pins clamp to by protection diodes, and those pins. */
  clamp: string | null;
  clamped: string[];
  /** The crystal without which its sequences do not run. */
  crystal: PartRef | null;
  /** The diode without which its boost converter gives nothing. */
  diode: PartRef | null;
  /** The attachment it goes with. */
  on: string | null;
  /** Made from a stage of a rails-depth sheet, no real part. */
  virtual: boolean;
}

/** A threshold at one of the chip's pins. */
export interface Need {
  pin: string;
  side: 'above' | 'below';
  volts: number;
  hysteresisVolts: number;
  /** Pin the volts are taken from; null for ground. */
  than: string | null;
}

export type Level = 'high' | 'low' | 'release';
export type Overload = 'hiccup' | 'latch' | 'foldback' | 'constant-current';

export interface Regulator {
  do: 'regulator';
  name: string;
  in: string;
  out: string;
  sense: string;
  /** The pin at the middle of its divider; missing where the sheet draws none. */
  feedback?: string;
  volts: number;
  limitAmps: number;
  pass: 'switching' | 'linear' | 'switch' | 'boost';
  efficiency: number;
  dropoutVolts: number;
  outOhms: number;
  needs: Need[];
  onDelaySeconds: number;
  softStartSeconds: number;
  overload: Overload;
  /** What a charger begins with. */
  precharge: { limitAmps: number; belowVolts: number; seconds: number } | null;
  powerGood: string | null;
  powerGoodDelaySeconds: number;
}

export interface Follower {
  do: 'follower';
  name: string;
  out: string;
  drive: 'open-drain' | 'push-pull';
  active: 'high' | 'low';
  /** Pin whose volts are the high level; null for an open drain. */
  high: string | null;
  /** Volts the output stands above `high` when driven: a charge pump. */
  liftVolts: number;
  supply: Need[];
  needs: Need[];
  /** Checked only at the moment of turning on. */
  startNeeds: Need[];
  /** What must hold while on; broken, it lets go at once and tries again, `tries` times in all. */
  trips: Need[];
  tries: number;
  retrySeconds: number;
  onDelaySeconds: number;
  offDelaySeconds: number;
}

export type Step =
  | { kind: 'wait'; needs: Need[]; withinSeconds: number | null }
  | { kind: 'pause'; seconds: number }
  | { kind: 'drive'; levels: { pin: string; level: Level }[] }
  | { kind: 'pulse'; pin: string; level: Level; seconds: number }
  | { kind: 'ask'; volts: number }
  | { kind: 'mark'; text: string };

export interface Sequence {
  do: 'sequence';
  name: string;
  supply: Need[];
  needs: Need[];
  high: string;
  drive: 'open-drain' | 'push-pull';
  idle: { pin: string; level: Level }[];
  steps: Step[];
  abort: Need[];
  retries: number;
  /** Released sooner than this after its supply, it hangs. */
  settleSeconds: number;
}

export type Behaviour = Regulator | Follower | Sequence;

export interface Stage {
  id: StageId;
  title: string;
  gives: NetId[];
  by: PartRef[];
  notes: string;
  /** Attachments without which it does not come. */
  with: string[];
}

export interface Point extends Place {
  id: string;
  net: NetId;
  part: string | null;
  pin: string | null;
  title: string;
}

export interface Source {
  id: SourceId;
  kind: Sheet['sources'][string]['kind'];
  title: string;
  net: NetId;
  volts: number;
  idleVolts: number | null;
  /** Amps beyond which it leaves its idle volts. */
  wakesAtAmps: number;
  /** The attachment it is. */
  on: string | null;
  limitAmps: number;
  seriesOhms: number;
  stays: boolean;
  /** Of a battery: what its charger is set to; null where the sheet does not say. */
  chargeLimitAmps: number | null;
  offersVolts: number[];
}

export interface Goal {
  id: GoalId;
  title: string;
  phase: 'standby' | 'pressed' | 'run';
  reached: { net: NetId; side: 'above' | 'below'; volts: number }[];
  /** Attachments without which it cannot be reached. */
  with: string[];
  /** What is seen from outside when it is reached. */
  shows: 'picture' | null;
}
