import { faultName } from '../../faults/index.ts';
import { voltsPlace, type Dictionary } from '../../dictionary/index.ts';
import { poweredPhases } from '../../readings/index.ts';
import { writeCsv } from './csv.ts';

/**
 * A fault dictionary as a CSV matrix (RFC 4180, comma, CRLF): a row per fault and kind of reading, a
 * column per net. Volts by phase with the source's amps, then ohms and diode-mode of the unpowered
 * board; OL above the meter's range, `low~high` where it swings, empty where nothing settled. The
 * first rows are the healthy board. Written to four digits: more is lost.
 */
export function dictionaryCsv(dictionary: Dictionary): string {
  const { nets, faults, rowOf } = dictionary;
  const lines: string[][] = [['fault', 'reading', 'trusted', 'amps', ...nets]];
  const add = (name: string, row: number): void => {
    const trusted = dictionary.invalid.has(row) ? 'no' : 'yes';
    poweredPhases.forEach((phase, index) => {
      const amps = dictionary.amps[row * poweredPhases.length + index]!;
      const volts = nets.map((_, net) => {
        const place = voltsPlace(dictionary, row, phase, net);
        const swing = dictionary.swings.get(place);
        return swing ? swing.map(digits).join('~') : digits(dictionary.volts[place]!);
      });
      lines.push([name, `volts ${phase}`, trusted, digits(amps), ...volts]);
    });
    for (const mode of ['ohms', 'diode'] as const) {
      const first = row * nets.length;
      const values = [...dictionary[mode].subarray(first, first + nets.length)].map(digits);
      lines.push([name, `${mode} cold`, 'yes', '', ...values]);
    }
  };
  add('healthy', 0);
  faults.forEach((fault, index) => add(faultName(fault), rowOf[index]!));
  return writeCsv(lines);
}

const digits = (value: number): string => {
  if (Number.isNaN(value)) return '';
  if (value === Infinity) return 'OL';
  return Math.abs(value) < 1e-4 ? '0' : String(Number(value.toPrecision(4)));
};
