/** Thermal voltage kT/q at 27 degrees Celsius, the usual reference of circuit simulators. */
export const thermalVolts = 0.025864186;

export interface JunctionModel {
  saturationAmps: number;
  emission: number;
  seriesOhms: number;
}

/**
 * Current of a junction with its series resistance folded in, and its slope in siemens, at `volts`
 * from anode to cathode. Closed form by the Wright omega function (R. M. Corless and D. J. Jeffrey,
 * "The Wright omega function", 2002; from memory): with x = ln(Is R / nVt) + (v + Is R) / nVt,
 * i = nVt / R * omega(x) - Is.
 */
export function junctionCurrent(
  model: JunctionModel,
  volts: number,
): { amps: number; siemens: number } {
  const scale = model.emission * thermalVolts;
  const ohms = model.seriesOhms;
  if (volts < -40 * scale) return { amps: -model.saturationAmps, siemens: 0 };
  const drop = model.saturationAmps * ohms;
  const omega = wrightOmega(Math.log(drop / scale) + (volts + drop) / scale);
  return {
    amps: (scale / ohms) * omega - model.saturationAmps,
    siemens: omega / (ohms * (1 + omega)),
  };
}

/** The real w with w + ln w = x; accurate to a few units in the last place. */
export function wrightOmega(x: number): number {
  if (x < -12) {
    // w = e^x - w e^x ...: three terms of its series are exact to the last place down here.
    const e = Math.exp(x);
    return e * (1 - e * (1 - 1.5 * e));
  }
  let w = x < 1 ? Math.exp(x) / (1 + Math.exp(x) * 0.6) : x - Math.log(x);
  // Fritsch, Shafer and Crowley's iteration (CACM algorithm 443; from memory), fourth order.
  for (let i = 0; i < 3; i++) {
    const residual = x - w - Math.log(w);
    const next = w + 1;
    const lift = 2 * next * (next + (2 / 3) * residual);
    const step = (residual / next) * ((lift - residual) / (lift - 2 * residual));
    w *= 1 + step;
    if (Math.abs(step) < 1e-15) break;
  }
  return w;
}
