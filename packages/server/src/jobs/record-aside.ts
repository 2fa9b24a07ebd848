import { makeAside } from '../aside/aside.ts';
import { tell, withoutWords, type Told } from './record-worker.ts';

/** A job of fewer entries is worked out at once, in some milliseconds. */
const atOnce = 300;
/** Ten thousand entries take two seconds on a busy machine. */
const seconds = 60;
const aside = makeAside(new URL('./record-worker.ts', import.meta.url));

/** What the list shows of a job and what it teaches, from the JSON of its entries. */
export async function tellAside(events: string, count: number): Promise<Told> {
  return count < atOnce ? tell(events) : aside<Told>('tell', events, { seconds });
}

/** JSON of the entries that lose a customer's words. */
export async function withoutWordsAside(events: string, count: number): Promise<string> {
  return count < atOnce ? withoutWords(events) : aside<string>('withoutWords', events, { seconds });
}
