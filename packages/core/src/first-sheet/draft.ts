/** A converter works from less than any rail of a laptop board (common practice, no source). */
const leastFeedVolts = 2.9;

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
    // High is high: some boards say it with 1.8 V, some with 5.
    this.nets[net] = { kind: 'signal', range: [1.6, 5.3], title, origin: 'guess' };
    if (pullTo !== null) this.resistor(pullTo, net, '10k');
    return net;
  }

  resistor(from: string, to: string, value: string, title?: string): void {
    this.#resistors += 1;
    this.parts[`R${this.#resistors}`] = {
      kind: 'resistor',
      pins: [from, to],
      value,
      guess: true,
      ...(title ? { title } : {}),
    };
  }

  /**
   * A converter fed from a rail through what lies between: its feed is read where it goes in. Where
   * nobody knows what lets it on, its enable pin is a point of its own, pulled up as most are.
   */
  converter(id: string, title: string, gives: string, more: Plain & { feed: string }): void {
    const feed = `${id}_IN`;
    // Which rail feeds it is the sheet's guess: any that is there will do.
    this.nets[feed] = {
      kind: 'rail',
      range: [leastFeedVolts, 21.5],
      origin: 'guess',
      title: `feed where it goes into the converter of ${gives}`,
    };
    this.parts[`WAY_${id}`] = {
      kind: 'resistor',
      value: 0.05,
      guess: true,
      title: `way from ${more.feed} (a guess) to the converter of ${gives}`,
      pins: [more.feed, feed],
    };
    const net = `${id}_EN`;
    const [by] = typeof more.enable === 'string' ? more.enable.split(' ') : [];
    this.nets[net] = {
      kind: 'signal',
      range: [1.2, 21.5],
      origin: 'guess',
      title: `enable pin of the converter of ${gives}: high, by ${by ?? 'whatever lets it on'}`,
    };
    this.parts[`ON_${id}`] = {
      kind: 'resistor',
      value: by === undefined ? '100k' : '1k',
      guess: true,
      title: 'stands for what lets it on',
      pins: [by ?? feed, net],
    };
    const enable = { enable: `${net} > 1` };
    this.stage(id, title, [gives], { ...more, ...enable, feed });
  }

  /** A stage that gives what `gives` names, from a feed, as at rails depth. */
  stage(id: string, title: string, gives: string[], more: Plain = {}): void {
    this.stages[id] = { title, gives, ...more };
  }
}
