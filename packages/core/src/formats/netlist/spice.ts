import type { Circuit, Device, JunctionModel } from '../../circuit/index.ts';

/**
 * A circuit as a SPICE netlist for an operating point. Each source, load and regulator is frozen in
 * the mode the given volts put it in: a limited one as a current, a holding one as its volts behind
 * its resistance. What a plain SPICE cannot say (limits, letting go) is lost. Nodes keep their
 * numbers, 0 being ground.
 */
export function spiceNetlist(circuit: Circuit, volts: Float64Array, title: string): string {
  const lines = [`* ${title.replaceAll('\n', ' ')}`];
  const models = new Map<string, string>();
  const model = (text: string, prefix: string): string => {
    const known = models.get(text);
    if (known) return known;
    const name = `${prefix}${models.size + 1}`;
    models.set(text, name);
    return name;
  };
  circuit.devices.forEach((device, index) => {
    lines.push(...deviceLines(device, index + 1, volts, model));
  });
  for (const [text, name] of models) lines.push(`.model ${name} ${text}`);
  for (let node = 1; node < circuit.nodes; node++) lines.push(`Rg${node} ${node} 0 1e10`);
  lines.push('.options reltol=1e-7 abstol=1e-13 vntol=1e-9 gmin=1e-13 itl1=500 itl2=500');
  lines.push('.end');
  return `${lines.join('\n')}\n`;
}

type ModelName = (text: string, prefix: string) => string;

function deviceLines(
  device: Device,
  serial: number,
  volts: Float64Array,
  model: ModelName,
): string[] {
  const at = (node: number): number => volts[node] as number;
  const v = (node: number): string => (node === 0 ? '0' : `v(${node})`);
  switch (device.kind) {
    case 'resistor':
      return device.siemens === 0
        ? []
        : [`R${serial} ${device.a} ${device.b} ${1 / device.siemens}`];
    case 'source': {
      if (!device.on) return [];
      const amps = (device.volts + at(device.base) - at(device.node)) / device.ohms;
      if (amps > device.maxAmps || amps < device.minAmps) {
        const frozen = amps > device.maxAmps ? device.maxAmps : device.minAmps;
        return [`I${serial} ${device.ownFeed ? 0 : device.base} ${device.node} ${frozen}`];
      }
      if (device.ownFeed)
        return [
          `B${serial} 0 ${device.node} i=(${device.volts}+${v(device.base)}-${v(device.node)})/${device.ohms}`,
        ];
      return [
        `V${serial} s${serial} ${device.base} ${device.volts}`,
        `Rs${serial} s${serial} ${device.node} ${device.ohms}`,
      ];
    }
    case 'load':
      if (device.amps === 0) return [];
      return at(device.node) > device.letGoVolts
        ? [`I${serial} ${device.node} 0 ${device.amps}`]
        : [`R${serial} ${device.node} 0 ${device.letGoVolts / device.amps}`];
    case 'diode': {
      const name = model(diodeText(device.model), 'd');
      const lines = [`D${serial} ${device.anode} ${device.cathode} ${name}`];
      if (device.breakdownVolts !== null) {
        lines.push(
          `Vz${serial} z${serial} ${device.anode} ${device.breakdownVolts}`,
          `Dz${serial} ${device.cathode} z${serial} ${name}`,
        );
      }
      return lines;
    }
    case 'fet': {
      const sign = device.polarity === 'n' ? 1 : -1;
      const type = device.polarity === 'n' ? 'nmos' : 'pmos';
      const text = `${type} (level=1 vto=${sign * device.thresholdVolts} kp=${device.beta} lambda=0 gamma=0 is=1e-32)`;
      const { drain, gate, source } = device;
      return [`M${serial} ${drain} ${gate} ${source} ${source} ${model(text, 'm')} w=1u l=1u`];
    }
    case 'bipolar': {
      const text = `${device.polarity} (is=${device.saturationAmps} bf=${device.forwardBeta} br=${device.reverseBeta})`;
      return [
        `Q${serial} ${device.collector} ${device.base} ${device.emitter} ${model(text, 'q')}`,
      ];
    }
    case 'regulator': {
      if (!device.on) return [];
      const bySense = device.volts - at(device.sense);
      const top =
        device.pass === 'linear'
          ? at(device.in) - device.dropoutVolts
          : Math.min(at(device.in) * 0.97, device.volts * 1.3);
      const byInput =
        (device.pass === 'boost' ? device.volts * 1.2 : Math.max(0, top)) - at(device.out);
      const amps = Math.min(bySense, byInput) / device.ohms;
      const given =
        amps <= 0
          ? '0'
          : amps >= device.limitAmps
            ? String(device.limitAmps)
            : bySense <= byInput
              ? `((${device.volts}-${v(device.sense)})/${device.ohms})`
              : `((${device.pass === 'linear' ? `${v(device.in)}-${device.dropoutVolts}` : device.pass === 'boost' ? String(device.volts * 1.2) : top === device.volts * 1.3 ? String(top) : `0.97*${v(device.in)}`}-${v(device.out)})/${device.ohms})`;
      if (given === '0') return [];
      if (device.pass === 'linear') return [`B${serial} ${device.in} ${device.out} i=${given}`];
      const least = device.pass === 'boost' ? 1 : Math.max(0.5, device.volts);
      const power = `(${given}*${v(device.out)}/${device.efficiency})`;
      const taken =
        at(device.in) >= least
          ? `${power}/${v(device.in)}`
          : `${v(device.in)}*${power}/${least * least}`;
      return [`B${serial} 0 ${device.out} i=${given}`, `Bi${serial} ${device.in} 0 i=${taken}`];
    }
  }
}

const diodeText = ({ saturationAmps, emission, seriesOhms }: JunctionModel): string =>
  `d (is=${saturationAmps} n=${emission} rs=${seriesOhms})`;
