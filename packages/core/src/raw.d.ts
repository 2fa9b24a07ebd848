// Tests read the demo sheets as text through the bundler: the core itself has no file system.
declare module '*?raw' {
  const text: string;
  export default text;
}

interface ImportMeta {
  /** Vite's, for tests that read whole folders. */
  glob<T>(
    pattern: string,
    options: { query: string; import: string; eager: true },
  ): Record<string, T>;
}

// A reader of netlists that is not ours, for tests: it has no types.
declare module 'kicad-netlist-to-json' {
  export default function toJson(netlist: string): unknown;
}
