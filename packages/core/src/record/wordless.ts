import type { EventBody } from './event.ts';

/** What stands where a customer's words stood. */
const erased = '(erased)';
const word = (text: string): string => (text === '' ? '' : erased);

/**
 * An entry without what could tell of a person: names, what the owner said, free notes, pictures and
 * their captions. What was measured, found, done and proven stays, in its own words, and so does the
 * board.
 */
export function wordless(body: EventBody): EventBody {
  switch (body.type) {
    case 'intake': {
      const { intake } = body;
      return {
        ...body,
        intake: {
          ...intake,
          device: erased,
          complaint: erased,
          history: word(intake.history),
          earlierRepair: word(intake.earlierRepair),
          otherGuess: word(intake.otherGuess),
          cameWith: word(intake.cameWith),
          lacking: word(intake.lacking),
          keep: word(intake.keep),
          limitText: word(intake.limitText),
        },
      };
    }
    case 'note':
      return { ...body, text: erased };
    case 'picture':
      return { ...body, caption: word(body.caption) };
    case 'approval':
      return { ...body, asks: erased };
    case 'answer':
    case 'handed-over':
    case 'wait':
      return { ...body, text: word(body.text) };
    case 'erased':
    case 'reopen':
      return { ...body, reason: word(body.reason) || erased };
    case 'finding':
      return { ...body, attachment: null };
    // The contents of a flash tell whose board it is; their hash stays.
    case 'firmware':
      return {
        ...body,
        attachment: null,
        saved: body.saved && { ...body.saved, name: erased },
      };
    case 'sign':
    case 'tried':
    case 'repair':
    case 'reading':
    case 'order':
    case 'strike':
    case 'harmless':
    case 'tied':
    case 'close':
    case 'safety':
    case 'wait-over':
    case 'order-step':
    case 'time':
    case 'power':
    case 'fed':
    case 'warm':
    case 'drop':
    case 'part-seen':
    case 'slip':
    case 'verify':
    case 'lesson':
    case 'sheet':
      return body;
  }
}
