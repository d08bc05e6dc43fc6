import { without } from '../mapping/things';

/** A story as its document says it (docs/formats/story.schema.json), loosely: while it is edited a part may be missing. */
export interface Story {
  yoru: 'story/1';
  id: string;
  title?: string;
  starts: string;
  people: { id: string; name?: string; address?: string }[];
  before?: StoryStep[];
  steps: StoryStep[];
}

export type Said = Record<string, unknown>;

export interface StoryStep extends Partial<Record<Word, Said>> {
  at?: string;
  after?: string;
  on?: string;
  who?: string;
}

export interface Expected {
  who?: string;
  open?: string[];
  closed?: string[];
  until?: Record<string, string>;
  exactly?: string[];
  done?: string[];
  'not-done'?: string[];
  told?: Record<string, { open?: string[]; closed?: string[] }>;
}

/** What a part of a step is filled in with. */
export type PartKind =
  | 'order'
  | 'subscription'
  | 'grant'
  | 'number'
  | 'money'
  | 'period'
  | 'product'
  | 'recurring'
  | 'course'
  | 'level'
  | 'tag'
  | 'person'
  | 'when-it-ends'
  | 'targets'
  | 'lines'
  | 'pays'
  | 'as';

export interface Part {
  key: string;
  words: string;
  kind: PartKind;
}

const ORDER: Part = { key: 'order', words: 'order', kind: 'order' };
const SUBSCRIPTION: Part = { key: 'subscription', words: 'subscription', kind: 'subscription' };
const LINE: Part = { key: 'line', words: 'line', kind: 'number' };
const COURSE: Part = { key: 'course', words: 'course', kind: 'course' };
const LEVEL: Part = { key: 'level', words: 'level', kind: 'level' };
const TAG: Part = { key: 'tag', words: 'tag', kind: 'tag' };

/** What a step can be, in words, and what belongs to it. */
export const WORDS = {
  buys: {
    words: 'buys',
    parts: [
      { key: 'lines', words: 'what', kind: 'lines' },
      { key: 'pays', words: 'pays', kind: 'pays' },
      { key: 'as', words: 'the shop knows them as', kind: 'as' },
    ],
  },
  pays: { words: 'pays for the order', parts: [ORDER] },
  fulfils: { words: 'the order is fulfilled', parts: [ORDER] },
  cancels: { words: 'the order is cancelled', parts: [ORDER] },
  refunds: {
    words: 'gets money back',
    parts: [ORDER, LINE, { key: 'amount', words: 'amount', kind: 'money' }],
  },
  'pays-part': {
    words: 'pays an instalment',
    parts: [{ key: 'number', words: 'number', kind: 'number' }, ORDER, LINE],
  },
  'fails-part': {
    words: 'an instalment fails',
    parts: [{ key: 'number', words: 'number', kind: 'number' }, ORDER, LINE],
  },
  claims: {
    words: 'takes up a seat or gift',
    parts: [ORDER, LINE, { key: 'seat', words: 'seat', kind: 'number' }],
  },
  subscribes: {
    words: 'subscribes',
    parts: [
      { key: 'product', words: 'to', kind: 'recurring' },
      { key: 'trial', words: 'on trial for', kind: 'period' },
    ],
  },
  renews: { words: 'the subscription is paid again', parts: [SUBSCRIPTION] },
  fails: { words: 'a payment for the subscription fails', parts: [SUBSCRIPTION] },
  resigns: {
    words: 'cancels the subscription',
    parts: [SUBSCRIPTION, { key: 'at', words: 'it ends', kind: 'when-it-ends' }],
  },
  finishes: { words: 'finishes a course', parts: [COURSE] },
  chooses: { words: 'chooses a course of the allowance', parts: [COURSE] },
  returns: { words: 'gives a chosen course back', parts: [COURSE] },
  'gets-level': { words: 'gets a level', parts: [LEVEL] },
  'loses-level': { words: 'loses a level', parts: [LEVEL] },
  'gets-tag': { words: 'gets a tag', parts: [TAG] },
  'loses-tag': { words: 'loses a tag', parts: [TAG] },
  'is-given': {
    words: 'is given something by hand',
    parts: [
      { key: 'to', words: 'what', kind: 'targets' },
      { key: 'length', words: 'for', kind: 'period' },
    ],
  },
  'is-ended': {
    words: 'what was given is ended',
    parts: [{ key: 'grant', words: 'which', kind: 'grant' }],
  },
  joins: { words: 'turns out to be also', parts: [{ key: 'person', words: 'who', kind: 'person' }] },
  'let-in': { words: 'the order that waits is let in', parts: [ORDER] },
  expect: { words: 'it should be so', parts: [] },
} as const satisfies Record<string, { words: string; parts: readonly Part[] }>;

export type Word = keyof typeof WORDS;

export function isWord(text: string): text is Word {
  return text in WORDS;
}

/** The word of a step; none = only time passes. */
export function wordOf(step: StoryStep): Word | undefined {
  return Object.keys(step).find(isWord);
}

/** Which parts must be filled in before it can be run. */
const FIRST: Partial<Record<Word, Said>> = {
  'pays-part': { number: 2 },
  'fails-part': { number: 2 },
};

/** The step as another word; when it happens and to whom stays. */
export function become(
  step: StoryStep,
  word: Word | undefined,
  first: (kind: PartKind) => unknown,
): StoryStep {
  const was = wordOf(step);
  const rest = was === undefined ? step : (without(step, was) as StoryStep);
  if (word === undefined) return rest;
  if (word === 'expect') return { ...(without(rest, 'who') as StoryStep), expect: {} };
  const said: Said = { ...FIRST[word] };
  for (const part of WORDS[word].parts as readonly Part[]) {
    const value = first(part.kind);
    if (value !== undefined) said[part.key] = value;
  }
  return { ...rest, [word]: said };
}

/** All steps in the order in which they happen, as the report has them. */
export function stepsOf(story: Story): { step: StoryStep; before: boolean; at: number }[] {
  return [
    ...(story.before ?? []).map((step, at) => ({ step, before: true, at })),
    ...story.steps.map((step, at) => ({ step, before: false, at })),
  ];
}

/** The story with other steps, in the place of those at a position. */
export function withSteps(story: Story, position: number, removed: number, ...added: StoryStep[]): Story {
  const before = story.before?.length ?? 0;
  if (position < before) {
    const steps = [...(story.before ?? [])];
    steps.splice(position, removed, ...added);
    return steps.length === 0 ? without(story, 'before') : { ...story, before: steps };
  }
  const steps = [...story.steps];
  steps.splice(position - before, removed, ...added);
  return { ...story, steps };
}

/** The story with one more step before it starts: when the last of them was, or a year earlier. */
export function withEarlier(story: Story): Story {
  const before = story.before ?? [];
  const year = Number(story.starts.slice(0, 4)) - 1;
  // there is no 29 February a year before
  const day = story.starts.slice(4).replace('-02-29', '-02-28');
  const at = before.at(-1)?.at ?? `${year}${day}`;
  return { ...story, before: [...before, { at }] };
}

/** How many orders, subscriptions or things given there are before a step. */
export function countBefore(story: Story, position: number, word: Word): number {
  return stepsOf(story)
    .slice(0, position)
    .filter(({ step }) => wordOf(step) === word).length;
}

/** What stands to be expected of a step, as one statement each. */
export interface Statement {
  words: string;
  /** The expectation without it. */
  rest: Expected;
}

export function statements(expected: Expected, title: (path: string) => string): Statement[] {
  const all: Statement[] = [];
  for (const key of ['open', 'closed'] as const) {
    (expected[key] ?? []).forEach((path, at) =>
      all.push({ words: `${title(path)} is ${key}`, rest: withList(expected, key, at) }),
    );
  }
  for (const [path, end] of Object.entries(expected.until ?? {})) {
    const until = without(expected.until ?? {}, path);
    const bare = without(expected, 'until') as Expected;
    all.push({
      words: `${title(path)} is open ${end === 'never' ? 'without an end' : `until ${end.replace('T', ' ')}`}`,
      rest: Object.keys(until).length === 0 ? bare : { ...bare, until },
    });
  }
  if (expected.exactly !== undefined) {
    all.push({
      words:
        expected.exactly.length === 0
          ? 'nothing is open'
          : `this is open and nothing else: ${expected.exactly.map(title).join(', ')}`,
      rest: without(expected, 'exactly'),
    });
  }
  (expected.done ?? []).forEach((does, at) =>
    all.push({ words: `done: ${does}`, rest: withList(expected, 'done', at) }),
  );
  (expected['not-done'] ?? []).forEach((does, at) =>
    all.push({ words: `not done: ${does}`, rest: withList(expected, 'not-done', at) }),
  );
  for (const [system, held] of Object.entries(expected.told ?? {})) {
    const words = [
      ...(held.open ?? []).map(title),
      ...(held.closed ?? []).map((path) => `not ${title(path)}`),
    ];
    const told = without(expected.told ?? {}, system);
    const bare = without(expected, 'told') as Expected;
    all.push({
      words: `${system} holds ${words.join(', ')}`,
      rest: Object.keys(told).length === 0 ? bare : { ...bare, told },
    });
  }
  return all;
}

function withList(expected: Expected, key: 'open' | 'closed' | 'done' | 'not-done', at: number): Expected {
  const list = (expected[key] ?? []).filter((_, other) => other !== at);
  const bare = without(expected, key) as Expected;
  return list.length === 0 ? bare : { ...bare, [key]: list };
}

/** An id that says what the story is called, and that none of the others has. */
export function idOf(title: string, taken: (id: string) => boolean): string {
  const base =
    title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 80) || 'story';
  let id = base;
  for (let more = 2; taken(id); more++) id = `${base}-${more}`;
  return id;
}
