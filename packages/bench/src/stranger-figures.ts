import { draw, seeded } from '@jiko/core/base';
import { loadSheet, type Board, type GoalId, type NetId, netById } from '@jiko/core/board';
import { makeDiagnoser, noEvidence, nextStep, walkNext, type NextStep } from '@jiko/core/diagnosis';
import { parseFault } from '@jiko/core/faults';
import { drawOf } from './closed-loop.ts';
import { choicesSchema, composeSheetText } from '@jiko/core/first-sheet';
import { benchSetup } from '@jiko/core/play';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { hideFaults, type HiddenBoard } from '@jiko/bench';
import { plainEvents, plainIntake, plainReading, sharedDictionary } from '@jiko/testing';
import { namePoint } from '@jiko/core/naming';
import { editSheet } from '@jiko/core/sheet-edit';
import { usualMeter, type Phase, type ReadingValue } from '@jiko/core/readings';
import { deriveJob } from '@jiko/core/record';
import { traceJob, type FirstMissing } from '@jiko/core/trace';
import { strangerBoard, type StrangerFault, type StrangerNeed } from './stranger-boards.ts';

/** A first sheet made by choices, tried on a board drawn by chance with one need of one stage broken. */
export interface StrangerRun {
  seed: number;
  fault: StrangerFault;
  said: string;
  need: StrangerNeed | null;
  rightStage: boolean;
  rightNeed: boolean;
  readings: number;
  trail: string[];
}

const mostReadings = 30;

export function boardOf(text: string): Board {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(`does not load: ${JSON.stringify(loaded.error.slice(0, 3))}`);
  return loaded.value;
}

/** The rail a net of the first sheet belongs to, and which need of its converter it is. */
function answerOf(
  board: Board,
  missing: FirstMissing,
  down: string | undefined,
): { rail: string; need: StrangerNeed } {
  const { net } = missing;
  const by = board.chips.find((chip) =>
    chip.behaviours.some(
      (one) =>
        one.do === 'regulator' &&
        [one.in, ...one.needs.map((need) => need.pin)].some((pin) => chip.pins.get(pin) === net),
    ),
  );
  const outOf = (chip: typeof by): string =>
    chip?.behaviours.flatMap((one) =>
      one.do === 'regulator' ? [chip.pins.get(one.sense) as string] : [],
    )[0] ?? '';
  if (/_IN$/.test(net) && by && net !== 'DC_IN') return { rail: outOf(by), need: 'feed' };
  const reporter = board.chips.find((chip) =>
    chip.behaviours.some(
      (one) => one.do === 'regulator' && one.powerGood && chip.pins.get(one.powerGood) === net,
    ),
  );
  if (reporter) return { rail: outOf(reporter), need: 'power-good' };
  const isRail = netById(board, net)?.kind === 'rail';
  // A line that lets several on: of the stage that is down first.
  if (!isRail && by)
    return { rail: /_EN$/.test(net) ? outOf(by) : (down ?? outOf(by)), need: 'enable' };
  return { rail: net, need: missing.pulledDown ? 'output' : 'chip' };
}

export function strangerRun(
  seed: number,
  hideSeed: number,
  school: 'walk' | 'shortest' = 'shortest',
): StrangerRun | null {
  const stranger = strangerBoard(seed);
  const real = boardOf(stranger.text);
  const chance = seeded(hideSeed);
  // One that shows on a first sheet's stages: extra rails of the board are nobody's stage there.
  const known = new Set(
    [...stranger.sees].filter(([name]) => !/_IN$|_EN$/.test(name)).map(([, net]) => net),
  );
  const fault = draw(
    stranger.faults.filter((one) => known.has(one.rail)),
    chance,
  );
  const parsed = parseFault(real, fault.fault);
  if (!parsed.ok) throw new Error(`${fault.fault}: ${JSON.stringify(parsed.error)}`);
  const setup = benchSetup(real, { attached: [] });
  const hidden = hideFaults(real, setup, [parsed.value], chance, {
    badContact: 0.02,
    // One meter, from reading to reading.
    noise: 0.0005,
    meter: usualMeter,
  });
  // What does not keep the board from booting is nobody's missing stage.
  const healthy = studyHealthyBoard(real);
  const reaches = (play: typeof healthy.play): boolean =>
    (play.phases.get('run')?.volts.get('PLT_RST#' as NetId) ?? 0) > 1.5;
  if (!reaches(healthy.play)) throw new Error(`stranger ${seed} does not boot`);
  if (reaches(hidden.play)) return null;
  const choices = choicesSchema.parse(stranger.choices);
  const made = {
    text: composeSheetText({ title: 'Unknown', marking: '', choices }, 'unknown'),
    sees: stranger.sees,
    source: choices.input === 'usb-c' ? ('usb-c' as const) : ('adapter' as const),
  };
  return follow(seed, made, fault, hidden, school);
}

/** A sheet that was made without knowing the board, and what a technician reads for its names. */
export interface MadeSheet {
  text: string;
  /** Names of the sheet, and the net of the board a technician would read for them. */
  sees: ReadonlyMap<string, string>;
  source: 'usb-c' | 'adapter';
}

/** Follows what is proposed on a made sheet until a stage is named, reading the hidden board. */
export function follow(
  seed: number,
  made: MadeSheet,
  fault: StrangerFault,
  hidden: HiddenBoard,
  school: 'walk' | 'shortest',
): StrangerRun {
  const board = boardOf(made.text);
  const source = board.sources.find((one) => one.kind === made.source)?.id ?? '';
  const setup = benchSetup(board, { source, attached: [] });
  const healthy = studyHealthyBoard(board, setup);
  const diagnoser =
    school === 'shortest'
      ? makeDiagnoser(board, healthy.stages, sharedDictionary(board, setup), setup)
      : null;
  const events = plainEvents(plainIntake({ board: 'unknown', source }));
  const trail: string[] = [];
  const unreached = new Set<string>();
  let readings = 0;
  let phase: Phase = 'standby';
  for (;;) {
    const job = deriveJob(events);
    const trace = traceJob(healthy, job, 'boots' as GoalId);
    const { firstMissing } = trace;
    const isKnown = (net: string, mode: string): boolean => !unreached.has(`${net} ${mode}`);
    const diagnosis =
      diagnoser && !firstMissing
        ? diagnoser.diagnose(
            {
              ...noEvidence,
              readings: job.readings,
              signs: drawOf(hidden),
              goal: 'boots' as GoalId,
            },
            { phase, side: 'top' },
          )
        : null;
    const step: NextStep = nextStep(
      board,
      trace,
      diagnosis && {
        ...diagnosis,
        next: diagnosis.next.filter((one) => isKnown(one.net, one.mode)),
      },
      school,
      [],
    );
    const probe =
      step.kind === 'in-order'
        ? { ...step.probe, reference: null }
        : step.kind === 'telling'
          ? { ...step.proposal, decides: [] as string[] }
          : null;
    const isDone = firstMissing?.certain === true && walkNext(trace) === null;
    if (isDone || !probe || readings >= mostReadings || !isKnown(probe.net, probe.mode)) {
      const down = trace.stages
        .find((one) => one.onPath && one.state === 'down')
        ?.nets.find((one) => one.status.kind === 'bad')?.net;
      const answer = firstMissing && answerOf(board, firstMissing, down);
      const rightStage = answer !== null && made.sees.get(answer.rail) === fault.rail;
      return {
        seed,
        fault,
        said: firstMissing ? `${firstMissing.net} (${answer?.need} of ${answer?.rail})` : 'nothing',
        need: answer?.need ?? null,
        rightStage,
        rightNeed: rightStage && answer.need === fault.need,
        readings,
        trail,
      };
    }
    const at = made.sees.get(probe.net);
    const against = probe.reference === null ? null : made.sees.get(probe.reference);
    // After the press a board that goes off again is read while it tries.
    phase = probe.phase === 'run' && hidden.offAfterSeconds !== null ? 'trying' : probe.phase;
    const value: ReadingValue =
      at === undefined || against === undefined
        ? { kind: 'unreached' }
        : hidden.read(at as NetId, probe.mode as 'volts', phase, against as NetId | null);
    if (value.kind === 'unreached') unreached.add(`${probe.net} ${probe.mode}`);
    else readings += 1;
    const reading = {
      ...plainReading(probe.net, probe.mode, phase, value, { against: probe.reference }),
      source: phase === 'cold' ? null : { id: source, volts: null, limitAmps: null },
    };
    trail.push(
      `${probe.net} ${probe.mode} ${phase}: ${value.kind === 'number' ? value.value.toFixed(3) : value.kind}`,
    );
    events.push(...plainEvents({ type: 'reading', reading, supersedes: probe.decides }));
  }
}

/** A point nobody has named on a drawn board: which net it is, said after the readings it asked for. */
export interface NamingRun {
  real: string;
  said: string | null;
  sure: number;
  right: boolean;
  readings: number;
}

const mostAsked = 4;

/** Every rail a first sheet has, found on a healthy drawn board as a point without a name, told nothing of where it is. */
export function namingRuns(seed: number): NamingRun[] {
  const stranger = strangerBoard(seed);
  const real = boardOf(stranger.text);
  const choices = choicesSchema.parse(stranger.choices);
  const composed = composeSheetText({ title: 'Unknown', marking: '', choices }, 'unknown');
  const point = editSheet(composed, { do: 'add-point', title: 'a coil', net: null });
  if (!point.ok) throw new Error(point.error.join());
  const { board } = point.value;
  const chance = seeded(seed * 31);
  const hidden = hideFaults(real, benchSetup(real, { attached: [] }), [], chance, {
    badContact: 0.02,
    meter: usualMeter,
    noise: 0.0005,
  });
  const healthy = studyHealthyBoard(board);
  const rails = board.nets.filter(
    ({ id, kind, loadAmps }) => kind === 'rail' && loadAmps > 0 && stranger.sees.has(id),
  );
  const known = new Map<string, NetId>();
  return rails.map(({ id }) => {
    const at = stranger.sees.get(id) as NetId;
    const events = plainEvents();
    // What was found before stands beside it.
    for (const [net, found] of known)
      events.push(
        ...plainEvents(asRead(net as NetId, 'volts', 'run', hidden.read(found, 'volts', 'run'))),
      );
    let asked: { mode: 'volts' | 'ohms' | 'diode'; phase: Phase; against: NetId | null } = {
      mode: 'volts',
      phase: 'standby',
      against: null,
    };
    for (let readings = 1; ; readings++) {
      const against = asked.against && (stranger.sees.get(asked.against) as NetId);
      const value = hidden.read(at, asked.mode, asked.phase, against);
      events.push(
        ...plainEvents(asRead('P1' as NetId, asked.mode, asked.phase, value, asked.against)),
      );
      const naming = namePoint(healthy, deriveJob(events).readings, 'P1' as NetId, 'a coil');
      const [first] = naming.candidates;
      if (readings < mostAsked && naming.question) {
        asked = naming.question;
        continue;
      }
      if (first?.net) known.set(first.net, at);
      return {
        real: id,
        said: first?.net ?? null,
        sure: first?.probability ?? 0,
        right: first?.net === id,
        readings,
      };
    }
  });
}

const asRead = (
  net: NetId,
  mode: 'volts' | 'ohms' | 'diode',
  phase: Phase,
  value: ReadingValue,
  against: NetId | null = null,
): unknown => ({
  type: 'reading',
  reading: plainReading(net, mode, phase, value, { against }),
  supersedes: [],
});
