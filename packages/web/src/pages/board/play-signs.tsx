import type { Play, Snapshot } from '@jiko/core/play';
import { formatAmps, formatWatts } from '@jiko/core/units';

/** What is seen without a probe: the draw, lights, fan, and where the heat is. */
export function PlaySigns({ play }: { play: Play }) {
  const moments = [
    ['Standby', play.phases.get('standby')],
    [lastMoment(play), play.phases.get('trying')],
  ] as const;
  return (
    <dl className="signs" aria-label="Signs">
      {moments.map(([title, snapshot]) =>
        snapshot ? (
          <div key={title}>
            <dt>{title}</dt>
            <dd>{signsOf(snapshot)}</dd>
          </div>
        ) : null,
      )}
    </dl>
  );
}

/** What the last moment is called: a board that gives up is read while it tries, one that collapses is off. */
export function lastMoment({ phases, events }: Pick<Play, 'phases' | 'events'>): string {
  if (phases.get('trying') !== phases.get('run')) return 'Trying';
  return events.some((one) => one.kind === 'gives-up') ? 'Off again' : 'Running';
}

function signsOf(snapshot: Snapshot): string {
  const hottest = [...snapshot.watts].sort((a, b) => b[1] - a[1]).slice(0, 3);
  return [
    `draws ${formatAmps(snapshot.sourceAmps)}${snapshot.swinging.size > 0 ? ', on and off' : ''}`,
    snapshot.lit.length > 0 ? `lights ${snapshot.lit.join(', ')}` : 'no light',
    snapshot.turning.length > 0 ? 'fan turns' : 'no fan',
    ...(hottest.length > 0
      ? [`warmest ${hottest.map(([part, watts]) => `${part} ${formatWatts(watts)}`).join(', ')}`]
      : []),
    ...(snapshot.phantom.length > 0
      ? [`fed through its pins: ${snapshot.phantom.join(', ')}, not to be trusted`]
      : []),
  ].join(' · ');
}
