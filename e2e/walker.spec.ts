import { walkNext } from '@jiko/core/diagnosis';
import { appendFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import type { APIRequestContext } from '@playwright/test';
import { api } from '@jiko/contract';
import { copySheet } from '@jiko/core/sheet-edit';
import fc from 'fast-check';
import { expect, long, test } from './page.ts';
import { openJobByHand } from './bench.ts';
import { sheetText } from './hidden-board.ts';
import { expectedOf } from './walk/expected.ts';
import { look, type Seen } from './walk/look.ts';
import { mayBe, steps, type Known, type StepKind, type Walk } from './walk/steps.ts';

// The road as a test: a job opened by the form, then steps in any order over all views. After each the
// page says what the core derives from the server's record. `WALKS` seeds from `WALK_FROM` on, of
// `WALK_STEPS` steps each; what was done is added to the file `WALK_OUT`, a line for each walk.

const from = Number(process.env['WALK_FROM'] ?? 1);
const walks = Number(process.env['WALKS'] ?? 3);
const most = Number(process.env['WALK_STEPS'] ?? 22);
const sheets = ['fell-13', 'beck-mini', 'otter-14'] as const;

/** Copies of a few boards that nobody but this walk works on; their titles. */
async function ownBoards(request: APIRequestContext, tag: string): Promise<string[]> {
  const titles: string[] = [];
  for (const id of sheets) {
    const title = `${id} ${tag}`;
    const copied = copySheet(sheetText(id), `${id}-${tag}`, title);
    const made = await request.post(api.boards, { data: { base: null, text: copied } });
    expect(made.ok(), await made.text()).toBe(true);
    titles.push(title);
  }
  return titles;
}

class Step implements fc.AsyncCommand<Known, Going> {
  readonly kind: StepKind;
  readonly pick: number;
  constructor(kind: StepKind, pick: number) {
    this.kind = kind;
    this.pick = pick;
  }
  check = (known: Readonly<Known>): boolean => mayBe(this.kind, known);
  async run(known: Known, going: Going): Promise<void> {
    await going.take(this, known);
  }
  toString = (): string => `${this.kind.name} (${this.pick})`;
}

/** A walk under way: does a step, and holds the page against the record. */
class Going {
  readonly walk: Walk;
  readonly errors: string[] = [];
  readonly done = new Map<string, number>();
  readonly trail: string[] = [];
  weighed = 0;
  constructor(walk: Walk) {
    this.walk = walk;
    this.watch();
    walk.context.on('page', (page) =>
      page.on('pageerror', (error) => this.errors.push(error.message)),
    );
  }
  private watch(): void {
    this.walk.page.on('pageerror', (error) => this.errors.push(error.message));
  }

  async take({ kind, pick }: Step, known: Known): Promise<void> {
    const { walk } = this;
    this.trail.push(`${kind.name} (${pick})`);
    try {
      if (kind.view !== undefined && kind.view !== known.view) {
        await walk.page.getByRole('link', { name: kind.view, exact: true }).click();
        await walk.page.waitForURL(new RegExp(`/${kind.view.toLowerCase()}`));
        known.view = kind.view;
        await this.isShown();
        if (kind.view === 'Trace') await this.holds(false);
      }
      const isDone = (await kind.run(walk, pick)) !== false;
      if (isDone) {
        kind.after?.(known);
        this.done.set(kind.name, (this.done.get(kind.name) ?? 0) + 1);
      }
      await this.isShown();
      if (kind.isByKey && isDone)
        await expect
          .poll(() => walk.page.evaluate(() => document.activeElement?.tagName ?? ''), {
            message: 'what has the keys',
            timeout: 3000,
          })
          .not.toBe('BODY');
      if (known.view === 'Trace' && !known.isOffline) await this.holds(this.trail.length % 7 === 0);
    } catch (error) {
      // A page that broke in the middle of a step is what happened, whatever the step then missed on it.
      const text =
        (await walk.page
          .locator('main.page')
          .textContent({ timeout: 2000 })
          .catch(() => '')) ?? '';
      const broke =
        /This (?:page|job) cannot be shown.{0,200}/.exec(text)?.[0] ?? this.errors.join(' ');
      throw new Error(
        `after ${this.trail.join(', ')}: ${broke ? `the page broke: ${broke}; ` : ''}${(error as Error).message}`,
        { cause: error },
      );
    }
  }

  /** The view stands, and nothing broke. */
  async isShown(): Promise<void> {
    const { page } = this.walk;
    await expect(page.locator('main.page > *').first()).toBeVisible();
    await expect(page.locator('.ant-skeleton')).toHaveCount(0);
    expect(this.errors).toEqual([]);
    expect(await page.locator('main.page').textContent()).not.toContain('cannot be shown');
  }

  /** What Trace says is what the record says. */
  async holds(isWeighed: boolean): Promise<void> {
    const { walk } = this;
    const { page, context, id } = walk;
    const seen = async (): Promise<Seen> => (walk.seen = await look(page));
    // While the server is away the page tries more and more seldom, once a minute at last.
    await expect.poll(async () => (await seen()).unsent, { timeout: 75_000 }).toBe(false);
    await expect
      .poll(
        async () => {
          const [now, wanted] = [
            await seen(),
            await expectedOf(context.request, id, walk.seen!, false),
          ];
          walk.board = wanted.board;
          walk.lifted = wanted.lifted;
          const next = walkNext(wanted.trace);
          return {
            entries:
              JSON.stringify(now.entries) === JSON.stringify(wanted.entries)
                ? 'same'
                : { is: now.entries, wanted: wanted.entries },
            missing:
              JSON.stringify(now.missing) === JSON.stringify(wanted.missing)
                ? 'same'
                : { is: now.missing, wanted: wanted.missing },
            reached: now.isReached === wanted.trace.goalReached,
            next:
              next === null || wanted.trace.goalReached || !now.probe?.isInOrder
                ? 'same'
                : now.probe.net === next.net && now.probe.mode === next.mode
                  ? 'same'
                  : { is: now.probe, wanted: next },
          };
        },
        { timeout: 15_000, message: 'what the page says of the record' },
      )
      .toEqual({ entries: 'same', missing: 'same', reached: true, next: 'same' });
    if (walk.other && new URL(walk.other.url()).pathname.endsWith('/trace')) {
      const other = walk.other;
      await expect
        .poll(async () => (await look(other)).entries.map((one) => one.id), { timeout: 15_000 })
        .toEqual(walk.seen!.entries.map((one) => one.id));
    }
    if (isWeighed) await this.weighs(false);
  }

  /**
   * The first three suspects, with their figures. While readings come one by one, sets of faults are grown
   * for each, so that figures may differ from those of all at once; the names on top may not. After a
   * reload (`isFresh`) the figures are the same to ten points: sets are still grown for plays as they come.
   */
  async weighs(isFresh: boolean): Promise<void> {
    const { walk } = this;
    if (isFresh) await walk.page.reload();
    await expect
      .poll(async () => this.differing(isFresh), {
        timeout: 120_000,
        intervals: [500, 1000, 2000],
        message: 'suspects of the page that the core does not have, or the other way round',
      })
      .toEqual([]);
    this.weighed++;
  }

  /** Titles that page and core disagree on; a word while it still weighs. */
  async differing(isFresh: boolean): Promise<unknown[]> {
    const { walk } = this;
    const now = await look(walk.page);
    if (now.suspects.state !== 'weighed') return [now.suspects.state];
    const { suspects } = await expectedOf(walk.context.request, walk.id, now, true);
    const wanted = suspects ?? [];
    const shown = now.suspects.list.map(({ title, chance }) => ({
      title,
      chance: chanceOf(chance),
    }));
    const far = isFresh
      ? shown.slice(0, 3).filter(({ title, chance }) => {
          const same = wanted.find((one) => one.title === title);
          return Math.abs((same?.probability ?? 0) - chance) > 0.1;
        })
      : [wanted[0], shown[0]].filter((first, place) => {
          const others = place === 0 ? shown : wanted.slice(0, 6);
          if (first === undefined || others.some((one) => one.title === first.title)) return false;
          // Where nothing leads, which of many stands on top is no answer.
          return ('chance' in first ? first.chance : first.probability) >= leastLeading;
        });
    return far.length === 0 ? [] : [...far, { wanted: wanted.slice(0, 6) }];
  }
}

/** A suspect likelier than this is an answer; below it stands one of many. */
const leastLeading = 0.1;

const chanceOf = (text: string): number =>
  text.startsWith('<') ? 0.005 : text.startsWith('>') ? 0.995 : Number.parseFloat(text) / 100;

const commands = steps.map((kind) => ({
  weight: kind.weight,
  arbitrary: fc.nat(9999).map((pick) => new Step(kind, pick)),
}));

/** A closed job is opened again some steps later: by chance alone a walk mostly ends first. */
function openedAgain(all: Iterable<Step>): Step[] {
  const again = steps.find((kind) => kind.name === 'opened again')!;
  const walk = [...all];
  for (let at = 0; at < walk.length; at++)
    if (walk[at]!.kind.name === 'closed') walk.splice(at + 4, 0, new Step(again, walk[at]!.pick));
  return walk;
}

for (let seed = from; seed < from + walks; seed++)
  test(`a walk over all views, seed ${seed}`, long, async ({ page, context }) => {
    test.setTimeout(900_000);
    const tag = `w${seed}-${randomUUID().slice(0, 4)}`;
    const boards = await ownBoards(page.request, tag);
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.oneof(...commands), { minLength: most, maxLength: most, size: 'max' }),
        async (all) => {
          await openJobByHand(page, boards[seed % boards.length]!, `Walk ${seed}`);
          const id = /jobs\/([^/]+)/.exec(page.url())![1]!;
          const walk: Walk = {
            context,
            page,
            other: null,
            id,
            boards,
            board: null!,
            lifted: [],
            seen: null,
          };
          const going = new Going(walk);
          await going.holds(false);
          const known: Known = {
            view: 'Trace',
            isOffline: false,
            isClosed: false,
            hasOther: false,
          };
          await fc.asyncModelRun(() => ({ model: known, real: going }), openedAgain(all));
          await context.unrouteAll();
          if (known.view === 'Trace') {
            await going.holds(true);
            await going.weighs(true);
          }
          const line = {
            seed,
            steps: going.trail.length,
            weighed: going.weighed,
            kinds: Object.fromEntries(going.done),
          };
          const out = process.env['WALK_OUT'];
          if (out) appendFileSync(out, `${JSON.stringify(line)}\n`);
        },
      ),
      { seed, numRuns: 1, endOnFailure: true, verbose: 1 },
    );
  });
