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
