import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, it } from 'vitest';
import { askAnew } from './query-client.ts';

it('what was changed while the first answer was on its way is in the list', async () => {
  const client = new QueryClient();
  const answers: ((rows: string[]) => void)[] = [];
  const observer = new QueryObserver(client, {
    queryKey: ['jobs'],
    queryFn: () => new Promise<string[]>((done) => answers.push(done)),
    networkMode: 'always',
  });
  const end = observer.subscribe(() => undefined);
  expect(answers).toHaveLength(1);
  const asked = askAnew(client, ['jobs']);
  await Promise.resolve();
  answers[0]!(['before the change']);
  await expect.poll(() => answers.length).toBe(2);
  answers[1]!(['after it']);
  await asked;
  expect(client.getQueryData(['jobs'])).toEqual(['after it']);
  end();
});
