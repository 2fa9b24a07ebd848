import { expect, it } from 'vitest';
import { missingToFeed } from './missing-to-feed.ts';

it('Enter never writes down a feed that the plays warn of, whatever was typed', () => {
  expect(missingToFeed(true, 0.5)).toContain('press the button');
  expect(missingToFeed(true, null)).toContain('press the button');
  expect(missingToFeed(false, null)).toContain('amps');
  expect(missingToFeed(false, 0)).toBeNull();
});
