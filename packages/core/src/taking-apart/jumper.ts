import { netById, type Board, type NetId, findPartOrChip } from '../board/index.ts';
import { gaugeMillimetres, copperOhmMetres } from '../sums/index.ts';

/** A wire in place of copper that is broken: from pad to pad. */
export interface Jumper {
  from: string;
  to: string;
  millimetres: number | null;
  /** The thinnest that carries it with room. */
  gauge: number;
  wireMillimetres: number;
  amps: number;
  dropVolts: number | null;
  text: string;
}

const gauges = [40, 38, 36, 34, 32, 30, 28, 26, 24, 22, 20];
/** A wire carries a fifth of what melts it (W. H. Preece 1884; see the sum `gauge`) with room. */
const meltPart = 0.2;
const meltAmps = (millimetres: number): number => 80 * millimetres ** 1.5;
const signalAmps = 0.02;

/** What a jumper along a net has to be, for what the net carries. */
export function proposeJumper(board: Board, net: NetId, from: string, to: string): Jumper {
  const one = netById(board, net);
  const amps = one?.kind === 'rail' || one?.kind === 'switch' ? railAmps(board, net) : signalAmps;
  const gauge = gauges.find((awg) => meltAmps(gaugeMillimetres(awg)) * meltPart >= amps) ?? 20;
  const wire = gaugeMillimetres(gauge);
  const [a, b] = [from, to].map((ref) => findPartOrChip(board, ref));
  const isPlaced = [a?.x, a?.y, b?.x, b?.y].every((one) => typeof one === 'number');
  const millimetres = isPlaced ? Math.hypot(a!.x! - b!.x!, a!.y! - b!.y!) : null;
  const ohms =
    millimetres === null
      ? null
      : (copperOhmMetres * millimetres * 1e-3) / ((Math.PI / 4) * wire * wire * 1e-6);
  return {
    from,
    to,
    millimetres,
    gauge,
    wireMillimetres: wire,
    amps,
    dropVolts: ohms === null ? null : ohms * amps,
    text: `Jumper from ${from} to ${to}${millimetres === null ? '' : `, ${Math.ceil(millimetres)} mm`}: enamelled wire of ${wire.toFixed(2)} mm (AWG ${gauge}) or thicker for ${Number(amps.toPrecision(2))} A${ohms === null || one?.kind === 'signal' ? '' : `, drops ${(ohms * amps * 1000).toFixed(0)} mV`}. Fixed with lacquer, away from heat and screws.`,
  };
}

/** What the maker of a rail gives at most, else what the sheet says hangs on it. */
function railAmps(board: Board, net: NetId): number {
  const limits = board.chips.flatMap((chip) =>
    chip.behaviours.flatMap((one) =>
      one.do === 'regulator' && [one.out, one.sense].some((pin) => chip.pins.get(pin) === net)
        ? [one.limitAmps]
        : [],
    ),
  );
  const sources = board.sources.filter((one) => one.net === net).map((one) => one.limitAmps);
  return Math.max(0.5, ...limits, ...sources);
}
