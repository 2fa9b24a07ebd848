// For aside.test.ts: what a thread may do wrong.
export const well = (text: string): string => text.toUpperCase();
export function ends(): void {
  process.exit(3);
}
export function throws(): void {
  throw new RangeError('out of range');
}
export function hangs(): void {
  for (;;);
}
export function eats(): number {
  const all: number[][] = [];
  for (;;) all.push(new Array<number>(1e6).fill(all.length));
}
