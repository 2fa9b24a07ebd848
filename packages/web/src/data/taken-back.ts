import type { EventInput, KeptEvent, TriedThing } from '@jiko/core/record';

/**
 * Entries that take back all that was answered of something tried and stands: what was answered before the
 * last answer would stand there again.
 */
export function takenBack(events: readonly KeptEvent[], thing: TriedThing): EventInput[] {
  const struck = new Set(
    events.flatMap(({ body }) => (body.type === 'strike' ? [body.event] : [])),
  );
  return events
    .filter(({ id, body }) => body.type === 'tried' && body.thing === thing && !struck.has(id))
    .map(({ id }) => ({ type: 'strike', event: id, reason: 'taken back' }));
}
