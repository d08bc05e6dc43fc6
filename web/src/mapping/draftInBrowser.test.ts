// @vitest-environment jsdom
import { afterEach, expect, test } from 'vitest';
import { NO_DRAFT, type Draft } from './draft';
import { keepInBrowser, meeting, readDraft, readInBrowser } from './draftInBrowser';

afterEach(() => localStorage.clear());

function draftOf(place: string): Draft {
  return { ...NO_DRAFT, base: 3, things: { [place]: { to: { id: place, title: place }, was: null } } };
}

const one = draftOf('tag/one');
const other = draftOf('tag/other');

test('of two machines the one that is behind takes over, and where both went on somebody is asked', () => {
  expect(meeting({ draft: one, revision: 4, ahead: false }, { revision: 4, draft: one })).toBe('none');
  expect(meeting({ draft: one, revision: 4, ahead: true }, { revision: 4, draft: other })).toBe('save');
  expect(meeting({ draft: one, revision: 4, ahead: true }, { revision: 5, draft: one })).toBe('take');
  expect(meeting({ draft: one, revision: 4, ahead: false }, { revision: 5, draft: other })).toBe('take');
  expect(meeting({ draft: one, revision: 4, ahead: true }, { revision: 5, draft: other })).toBe('ask');
  expect(meeting({ draft: one, revision: 4, ahead: true }, { revision: 5, draft: NO_DRAFT })).toBe('save');
  expect(meeting({ draft: NO_DRAFT, revision: 4, ahead: true }, { revision: 4, draft: other })).toBe('save');
});

test('a draft outlives a reload with where it came from; what is none is none', () => {
  keepInBrowser('place', {
    draft: { ...one, undo: [{ changes: {}, things: {} }] },
    revision: 4,
    ahead: true,
  });
  expect(readInBrowser('place')).toEqual({ draft: one, revision: 4, ahead: true });
  localStorage.setItem('place', JSON.stringify({ base: 3, changes: {}, things: one.things }));
  expect(readInBrowser('place'), 'one of an older Yoru is not on the server yet').toEqual({
    draft: one,
    revision: 0,
    ahead: true,
  });
  expect(readDraft({ base: 'no number' })).toBe(NO_DRAFT);
});
