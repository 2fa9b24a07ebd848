import { expect, type Page } from '@playwright/test';

/** The interface as a technician meets it. */
export async function openJob(page: Page, board: string, device: string): Promise<void> {
  await page.goto('/jobs');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Device').fill(device);
  await page.getByLabel('Board', { exact: true }).click();
  await page.keyboard.type(board);
  await page.keyboard.press('Enter');
  await page
    .getByLabel("Complaint, in the owner's words")
    .fill('Does nothing when the button is pressed.');
  await expect(page.getByText('boots', { exact: true }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Open the job' }).click();
  // No step is forced: straight to the trace.
  await page.getByRole('link', { name: 'Trace' }).click();
  await expect(page.getByRole('textbox', { name: /^Reading at/ })).toBeVisible();
}

export const entry = (page: Page) => page.getByRole('textbox', { name: /^Reading at/ });

export async function setPhase(page: Page, phase: string): Promise<void> {
  await page.getByLabel('Bench').getByText(phase, { exact: true }).click();
}

/** The net the interface asks for now, and in which meter mode; null when it asks for nothing. */
export async function asked(page: Page): Promise<{ net: string; mode: 'ohms' | 'volts' } | null> {
  const line = entry(page);
  if ((await line.count()) === 0) return null;
  const net = (await page.locator('.probe').getAttribute('data-net')) ?? '';
  const placeholder = await line.getAttribute('placeholder');
  return { net, mode: placeholder?.includes('OL or beep') ? 'ohms' : 'volts' };
}
