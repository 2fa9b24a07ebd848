/** A sheet while it is put together; written as YAML by sheet-text.ts and read like any other. */
export type Plain = Record<string, unknown>;

export class Draft {
  readonly nets: Record<string, Plain> = { GND: { kind: 'ground' } };
  readonly parts: Record<string, Plain> = {};
  readonly chips: Record<string, Plain> = {};
  readonly stages: Record<string, Plain> = {};
  readonly points: Record<string, Plain> = {};
  readonly sources: Record<string, Plain> = {};
  readonly goals: Record<string, Plain> = {};
  readonly attachments: Record<string, Plain> = {};
  #resistors = 0;

  /** A rail with the volts or range it should have, and where that comes from. */
  rail(
    net: string,
    volts: number | [number, number],
    title: string,
    { load = 0, origin = 'rule-of-thumb', aliases = [] as string[] } = {},
  ): string {
    this.nets[net] = {
      kind: 'rail',
      ...(Array.isArray(volts) ? { range: volts } : { volts }),
      ...(load > 0 ? { load } : {}),
      origin,
      title,
      ...(aliases.length > 0 ? { aliases } : {}),
    };
    return net;
  }

  signal(net: string, title: string, pullTo: string | null = null): string {
    this.nets[net] = { kind: 'signal', title, origin: 'guess' };
    if (pullTo !== null) this.resistor(pullTo, net, '10k');
    return net;
  }

  resistor(from: string, to: string, value: string, title?: string): void {
    this.#resistors += 1;
    this.parts[`R${this.#resistors}`] = {
      kind: 'resistor',
      pins: [from, to],
      value,
      ...(title ? { title } : {}),
    };
  }

  /** A stage that gives what `gives` names, from a feed, as at rails depth. */
  stage(id: string, title: string, gives: string[], more: Plain = {}): void {
    this.stages[id] = { title, gives, ...more };
  }
}
