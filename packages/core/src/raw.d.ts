// Tests read the demo sheets as text through the bundler: the core itself has no file system.
declare module '*?raw' {
  const text: string;
  export default text;
}
