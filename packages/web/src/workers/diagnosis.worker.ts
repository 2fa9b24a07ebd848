import { expose } from 'comlink';
import type { Board } from '@jiko/core/board';
import {
  makeDiagnoser,
  type BenchNow,
  type BenchOf,
  type Diagnoser,
  type Diagnosis,
  type Evidence,
} from '@jiko/core/diagnosis';
import { drawStops, type DrawStop } from '@jiko/core/prepare';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import { studyHealthyBoard } from '@jiko/core/expectations';
import type { Dictionary } from '@jiko/core/dictionary';

let diagnoser: Diagnoser | null = null;
/** Worked out when somebody asks: plays that are not whole yet are only weighed. */
let stops: () => DrawStop[] = () => [];

/** Takes over a dictionary; what follows is asked of it. */
function prepare(board: Board, bench: BenchSetup, dictionary: Dictionary): void {
  const setup = benchSetup(board, bench);
  const { stages } = studyHealthyBoard(board, setup);
  let known: DrawStop[] | null = null;
  stops = () => (known ??= drawStops(board, stages, dictionary));
  diagnoser = makeDiagnoser(board, stages, dictionary, setup);
}

function diagnose(evidence: Evidence, now: BenchNow): Diagnosis {
  if (!diagnoser) throw new Error('no dictionary yet');
  return diagnoser.diagnose(evidence, now);
}

/** Takes over the dictionary of another bench that readings were taken on. */
function alsoKnow(bench: BenchOf, dictionary: Dictionary): void {
  diagnoser?.alsoKnow(bench, dictionary);
}

/** What boards draw that stop at each stage. */
const draws = (): DrawStop[] => stops();

const worker = { prepare, diagnose, alsoKnow, draws };
export type DiagnosisWorker = typeof worker;
expose(worker);
