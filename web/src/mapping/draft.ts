import type { Schemas } from '../api/client';
import { onCell, same, sameTerms, termsIn, type Terms } from './terms';

/** What opens and what is opened, as one key. */
export type CellKey = string;

export function cellKey(source: string, target: string): CellKey {
  return JSON.stringify([source, target]);
}

export function cellOf(key: CellKey): [source: string, target: string] {
  return JSON.parse(key) as [string, string];
}

/** What is published, by cell; a cell that is not there opens nothing. */
export type Published = ReadonlyMap<CellKey, Terms>;

export function published(cells: Schemas['Cell'][]): Published {
  return new Map(cells.map((cell) => [cellKey(cell.source, cell.target), cell.terms]));
}

/** A changed cell: what it is to be (null = opens nothing), and what was published when it was changed. */
export interface Change {
  to: Terms | null;
  was: Terms | null;
}

type Changes = Readonly<Record<CellKey, Change>>;

/** A changed thing that is no cell: as it stands in a rulebook's document, null = it is not there. */
export interface ThingChange {
  to: unknown;
  was: unknown;
}

type Things = Readonly<Record<string, ThingChange>>;

/** What a thing is to be, and how it stands in the rulebook in force. */
export type ThingEdit = [path: string, to: unknown, was: unknown];

interface Step {
  changes: Changes;
  things: Things;
}

/** Changes that are not published, with the way back and forth. */
export interface Draft extends Step {
  /** The rulebook version they start from. */
  base: number;
  /** A whole rulebook that the changes lead to, in its own order and with its own ids. */
  document?: string | undefined;
  undo: Step[];
  redo: Step[];
}

export type Act =
  | {
      act: 'set';
      cells?: [CellKey, Terms | null][];
      things?: ThingEdit[];
      published: Published;
      version: number;
    }
  | { act: 'undo' }
  | { act: 'redo' }
  | { act: 'discard' }
  | { act: 'load'; draft: Schemas['WholeDraft']; published: Published; things: Lookup; version: number }
  | { act: 'carry-over'; published: Published; things: Lookup; version: number; without: string[] };

/** How a thing stands in the rulebook in force. */
export type Lookup = (path: string) => unknown;

const MOST_STEPS = 200;

export const NO_DRAFT: Draft = { base: 0, changes: {}, things: {}, undo: [], redo: [] };

/** Changes that change something; of a whole rulebook some are kept only to say that they do not. */
export function realChanges(draft: Draft): [CellKey, Change][] {
  return Object.entries(draft.changes).filter(([, { to, was }]) => !sameTerms(to, was));
}

export function realThings(draft: Draft): [string, ThingChange][] {
  return Object.entries(draft.things).filter(([, { to, was }]) => !same(to, was));
}

export function size(draft: Draft): number {
  return realChanges(draft).length + realThings(draft).length;
}

export function isEmpty(draft: Draft): boolean {
  return size(draft) === 0;
}

export function reduce(draft: Draft, action: Act): Draft {
  switch (action.act) {
    case 'set': {
      const changes = { ...draft.changes };
      for (const [key, to] of action.cells ?? []) {
        const was = changes[key] === undefined ? (action.published.get(key) ?? null) : changes[key].was;
        Reflect.deleteProperty(changes, key); // the latest stands last
        if (draft.document !== undefined || !sameTerms(to, was)) changes[key] = { to, was };
      }
      const things = { ...draft.things };
      for (const [path, to, published] of action.things ?? []) {
        const was = path in things ? things[path]?.was : published;
        Reflect.deleteProperty(things, path);
        if (draft.document !== undefined || !same(to, was)) things[path] = { to, was };
      }
      return stepped(draft, { changes, things }, action.version);
    }
    case 'undo': {
      const back = draft.undo.at(-1);
      return back === undefined
        ? draft
        : { ...draft, ...back, undo: draft.undo.slice(0, -1), redo: [...draft.redo, stepOf(draft)] };
    }
    case 'redo': {
      const again = draft.redo.at(-1);
      return again === undefined
        ? draft
        : { ...draft, ...again, redo: draft.redo.slice(0, -1), undo: [...draft.undo, stepOf(draft)] };
    }
    case 'discard':
      return NO_DRAFT;
    case 'load': {
      const { document, cells, things } = action.draft;
      const changes: Record<CellKey, Change> = {};
      for (const cell of cells) {
        const key = cellKey(cell.source, cell.target);
        changes[key] = { to: cell.terms ?? null, was: action.published.get(key) ?? null };
      }
      const changed: Record<string, ThingChange> = {};
      for (const { thing, to } of things) {
        changed[thing] = { to: to ?? null, was: action.things(thing) };
      }
      return { base: action.version, document, changes, things: changed, undo: [], redo: [] };
    }
    case 'carry-over': {
      const changes: Record<CellKey, Change> = {};
      for (const [key, { to }] of Object.entries(draft.changes)) {
        const was = action.published.get(key) ?? null;
        if (!sameTerms(to, was) && !action.without.includes(key)) changes[key] = { to, was };
      }
      const things: Record<string, ThingChange> = {};
      for (const [path, { to }] of Object.entries(draft.things)) {
        const was = action.things(path);
        if (!same(to, was) && !action.without.includes(path)) things[path] = { to, was };
      }
      // a whole rulebook would take back what the other has published: only what differs is carried over
      return { base: action.version, changes, things, undo: [], redo: [] };
    }
  }
}

function stepOf({ changes, things }: Draft): Step {
  return { changes, things };
}

function stepped(draft: Draft, step: Step, version: number): Draft {
  return {
    ...draft,
    ...step,
    base: isEmpty(draft) ? version : draft.base,
    undo: [...draft.undo, stepOf(draft)].slice(-MOST_STEPS),
    redo: [],
  };
}

/** What every cell would open under, were the draft published. */
export function effectiveCells(draft: Draft, now: Published): ReadonlyMap<CellKey, Terms> {
  const cells = new Map(now);
  for (const [key, change] of Object.entries(draft.changes)) {
    if (change.to === null) cells.delete(key);
    else cells.set(key, change.to);
  }
  for (const [key, terms] of cells) {
    const shared = draft.things[`terms/${terms.named ?? ''}`]?.to as
      { terms: Partial<Terms> } | null | undefined;
    if (shared != null && terms.named !== undefined)
      cells.set(key, { ...termsIn(shared.terms), ...onCell(terms), named: terms.named });
  }
  return cells;
}

/** The cells and things of the draft that somebody else has changed since. */
export function contested(draft: Draft, now: Published, things: Lookup): string[] {
  return [
    ...realChanges(draft)
      .filter(([key, change]) => !sameTerms(change.was, now.get(key) ?? null))
      .map(([key]) => key),
    ...realThings(draft)
      .filter(([path, change]) => !same(change.was, things(path)))
      .map(([path]) => path),
  ];
}

/** As the server takes it. */
export function asDraft(draft: Draft): Schemas['Draft'] {
  const things = Object.entries(draft.things).map(([thing, { to }]): Schemas['DraftThing'] =>
    to === null ? { thing } : { thing, to: to as Record<string, unknown> },
  );
  return {
    changes: asCells(draft),
    ...(things.length > 0 && { things }),
    ...(draft.document !== undefined && { document: draft.document }),
  };
}

function asCells(draft: Draft): Schemas['DraftCell'][] {
  return Object.entries(draft.changes)
    .toSorted(([one], [other]) => (one < other ? -1 : 1))
    .map(([key, change]) => {
      const [source, target] = cellOf(key);
      return { source, target, ...(change.to !== null && { terms: change.to }) };
    });
}
