// Drills of what may be sent to the server: E3, E4, E8, E10, E12, E16. What was found to break once, done again.
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { request } from 'node:http';
import { connect } from 'node:net';
import { join } from 'node:path';
import type { Say } from '../entries.ts';
import {
  event,
  freshFolder,
  healthOf,
  intake,
  open,
  post,
  sheet,
  smallDisk,
  start,
  started,
  wait,
  worstWait,
} from '../jiko.ts';

export async function E3(say: Say): Promise<void> {
  const disk = smallDisk(200);
  if (!disk)
    return say('E3: a firmware on a full disk', 'refused at once', 'not run: no small disk', null);
  const jiko = await started(disk.path, { LOG_LEVEL: 'error' });
  const job = await open(jiko.address);
  spawnSync('dd', ['if=/dev/zero', `of=${join(disk.path, 'filler')}`, 'bs=1M', 'count=400'], {
    stdio: 'ignore',
  });
  let status = 0;
  const content = Buffer.alloc(8 * 1024 ** 2, 7);
  const hash =
    spawnSync('sha256sum', { input: content, encoding: 'utf8' }).stdout.split(' ')[0] ?? '';
  const worst = await worstWait(jiko.address, async () => {
    const form = new FormData();
    form.append('id', randomUUID());
    form.append('sha256', hash);
    form.append('file', new Blob([content]), 'flash.bin');
    status = await fetch(`${jiko.address}/api/jobs/${job}/firmware`, {
      method: 'POST',
      body: form,
      signal: AbortSignal.timeout(120_000),
    }).then(
      (answer) => answer.status,
      () => 0,
    );
  });
  await jiko.stop();
  const logged = jiko.said().length;
  disk.takeOff();
  say(
    'E3: a firmware of 8 MB on a full disk',
    'refused; others wait under 1 s; under 20 kB of log',
    `${status}; others waited ${worst} ms at most; ${Math.round(logged / 1024)} kB of log`,
    status === 503 && worst < 1000 && logged < 20_000,
  );
}

export async function E4(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  // A name with a NUL in the text layer: what poorly made fonts do; and the same without.
  const pdf = (text: string): Buffer =>
    Buffer.from(
      `%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 300]/Resources<</Font<</F1<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>/Contents 4 0 R>>endobj\n4 0 obj<</Length 46>>stream\nBT /F1 12 Tf 50 50 Td (${text}) Tj ET     \nendstream endobj\ntrailer<</Root 1 0 R>>`,
      'latin1',
    );
  const statuses: number[] = [];
  for (const content of [pdf('PLT    RST#'), pdf('PLT\\000RST#')]) {
    const form = new FormData();
    form.append('id', randomUUID());
    form.append('kind', 'schematic');
    form.append('file', new Blob([new Uint8Array(content)], { type: 'application/pdf' }), 'a.pdf');
    const answer = await fetch(`${jiko.address}/api/boards/beck-mini/documents`, {
      method: 'POST',
      body: form,
      signal: AbortSignal.timeout(60_000),
    });
    if (answer.status >= 400) console.log(await answer.text());
    statuses.push(answer.status);
  }
  await jiko.stop();
  say(
    'E4: a PDF whose text holds U+0000',
    'taken like any other',
    `a plain one ${statuses[0]}, that one ${statuses[1]}`,
    statuses.every((status) => status === 201),
  );
}

export async function E8(say: Say): Promise<void> {
  const first = await started(freshFolder());
  const { port } = new URL(first.address);
  const second = start(freshFolder(), { PORT: port });
  const came = await second.ready;
  const text = second.said().trim();
  const strange = start(freshFolder(), { HOST: '127.999.1.1' });
  await strange.ready;
  await Promise.all([first.stop(), second.stop(), strange.stop()]);
  const isStack = [text, strange.said()].some((said) => /\n\s+at /.test(said));
  say(
    'E8: a port that is taken, an address that is none',
    'told in words',
    `${came ? 'CAME UP' : text.split('\n')[0]}; ${strange.said().trim().split('\n')[0]}${isStack ? '; A STACK' : ''}`,
    !came && text.includes(`Port ${port} is taken`) && !isStack,
  );
}

export async function E10(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const { port } = new URL(jiko.address);
  const socket = connect(Number(port), '127.0.0.1');
  socket.write(
    'POST /api/job-files HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/zip\r\nContent-Length: 100000\r\n\r\nPK',
  );
  await wait(300);
  socket.destroy();
  await wait(300);
  const health = await healthOf(jiko.address);
  await jiko.stop();
  say(
    'E10: an upload that breaks off',
    'health stays well',
    `health ${health?.status} ${health?.database}`,
    health?.status === 200,
  );
}

export async function E12(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const job = await open(jiko.address);
  const boards = ['cairn-14', 'fell-13', 'wren-5', 'otter-14'];
  for (const board of boards)
    await post(jiko.address, '/api/boards', { text: sheet(board), base: null });
  let notAway = 0;
  for (let round = 0; round < 5; round++) {
    for (const archived of [false, true])
      await Promise.all(
        boards.map((board) =>
          post(jiko.address, `/api/boards/${board}/archived`, { archived }, 'PUT'),
        ),
      );
    const listed = (await (await fetch(`${jiko.address}/api/boards`)).json()) as {
      id: string;
      archived: boolean;
    }[];
    notAway += listed.filter(({ id, archived }) => boards.includes(id) && !archived).length;
  }
  const places = ['R1', 'R2', 'R3', 'R4', 'R5', 'R6'].map((ref) => ({
    ref,
    frame: 'drawn',
    at: { side: 'top', u: 0.5, v: 0.5 },
    who: 'Bench 1',
  }));
  const set = await Promise.all(
    Array.from({ length: 20 }, (_, turn) =>
      post(
        jiko.address,
        '/api/boards/beck-mini/places',
        { places: turn % 2 ? places : [...places].reverse() },
        'PUT',
      ),
    ),
  );
  const other = randomUUID();
  await post(jiko.address, '/api/jobs', { id: other, events: [intake()] });
  const crossed: number[] = [];
  for (let round = 0; round < 15; round++) {
    const events = Array.from({ length: 20 }, () => event({ type: 'note', text: 'x' }));
    crossed.push(
      ...(await Promise.all([
        post(jiko.address, `/api/jobs/${job}/events`, { events }),
        post(jiko.address, `/api/jobs/${other}/events`, { events: [...events].reverse() }),
      ])),
    );
  }
  await jiko.stop();
  const bad = (all: number[]): number => all.filter((status) => status >= 500).length;
  say(
    'E12: changes that meet: boards put away, places in two orders, the same entries to two jobs',
    'none lost, none answered with 500',
    `${notAway} of 20 not away; ${bad(set)} of ${set.length} and ${bad(crossed)} of ${crossed.length} with 5xx`,
    notAway === 0 && bad(set) === 0 && bad(crossed) === 0,
  );
}

export async function E16(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  const jobs = await fetch(`${jiko.address}/api/jobs`);
  const cache = jobs.headers.get('cache-control');
  const { port } = new URL(jiko.address);
  const forged = await new Promise<number>((done) => {
    request(
      {
        host: '127.0.0.1',
        port,
        path: '/api/demo',
        method: 'DELETE',
        headers: {
          Host: 'localhost',
          'Sec-Fetch-Site': 'cross-site',
          'Sec-Fetch-Mode': 'navigate',
        },
      },
      (answer) => {
        answer.resume();
        done(answer.statusCode ?? 0);
      },
    ).end();
  });
  await jiko.stop();
  say(
    'E16: a foreign form, and what caches keep (cells, Markdown, names, erasing: in the tests)',
    'refused; nothing is kept',
    `${forged}; Cache-Control ${cache}`,
    forged === 403 && cache === 'no-store',
  );
}
