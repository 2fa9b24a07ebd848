import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { api, type BoardDetail, type ListedBoard } from '@jiko/contract';
import { choosableGoals, loadSheet } from '@jiko/core/board';
import type { EventInput } from '@jiko/core/record';

const complaint = 'Does nothing when the button is pressed.';

/** A new job as a technician opens it: no step is forced, straight to the trace. */
export async function openJobByHand(page: Page, board: string, device: string): Promise<void> {
  await page.goto('/jobs');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Device').fill(device);
  await page.getByLabel('Board', { exact: true }).click();
  await page.keyboard.type(board);
  await page.keyboard.press('Enter');
  await page.getByLabel("Complaint, in the owner's words").fill(complaint);
  await expect(page.getByText('boots', { exact: true }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Open the job' }).click();
  await page.getByRole('link', { name: 'Trace' }).click();
  await expect(entry(page)).toBeVisible();
}

/** The same job as the form would send it, for tests that begin at the trace. */
export async function openJob(page: Page, title: string, device: string): Promise<void> {
  const boards = (await (await page.request.get(api.boards)).json()) as ListedBoard[];
  const board = boards.find((one) => one.title.startsWith(title));
  if (!board) throw new Error(`no board is called ${title}`);
  const { text } = (await (await page.request.get(api.board(board.id))).json()) as BoardDetail;
  const sheet = loadSheet(text);
  if (!sheet.ok) throw new Error(`the sheet of ${title} does not load`);
  const intake: EventInput = {
    type: 'intake',
    intake: {
      board: board.id,
      device,
      complaint,
      history: '',
      goal: choosableGoals(sheet.value)[0]?.id ?? '',
      source: sheet.value.sources.find((one) => !one.stays)?.id ?? '',
      keep: '',
      promised: null,
    },
  };
  const id = randomUUID();
  const event = { id: randomUUID(), who: 'Bench 1', at: new Date().toISOString(), body: intake };
  const made = await page.request.post(api.jobs, { data: { id, events: [event] } });
  expect(made.status(), await made.text()).toBe(201);
  await page.goto(`/jobs/${id}/trace`);
  await expect(entry(page)).toBeVisible();
}

/** Adds entries to the job that is shown, and looks at it anew. */
export async function write(page: Page, ...bodies: EventInput[]): Promise<void> {
  const id = /jobs\/([^/]+)/.exec(page.url())![1]!;
  const events = bodies.map((body) => ({
    id: randomUUID(),
    who: 'Bench 1',
    at: new Date().toISOString(),
    body,
  }));
  const sent = await page.request.post(api.events(id), { data: { events } });
  expect(sent.ok(), await sent.text()).toBe(true);
  await page.reload();
}

export const entry = (page: Page) => page.getByRole('textbox', { name: /^Reading at/ });

export async function setPhase(page: Page, phase: string): Promise<void> {
  await page.getByLabel('Bench').getByText(phase, { exact: true }).click();
}

/** The net the interface asks for now, and in which meter mode; null when it asks for nothing. */
export const asked = (page: Page): Promise<{ net: string; mode: 'ohms' | 'volts' } | null> =>
  // In one look: what is asked may give way to a test between two.
  page.evaluate(() => {
    const probe = document.querySelector<HTMLElement>('.probe');
    const line = probe?.querySelector<HTMLInputElement>('.entry input');
    if (!probe || !line) return null;
    return {
      net: probe.dataset['net'] ?? '',
      mode: line.placeholder.includes('OL or beep') ? 'ohms' : 'volts',
    };
  });
