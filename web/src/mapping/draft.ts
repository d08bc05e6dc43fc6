import type { Schemas } from '../api/client';
import { sameTerms, type Terms } from './terms';

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

/** Changes that are not published, with the way back and forth. */
export interface Draft {
  /** The rulebook version they start from. */
  base: number;
  /** A whole rulebook that the changes lead to, and what of it they do not say. */
  whole?: { document?: string | undefined; more: string[] };
  changes: Changes;
  undo: Changes[];
  redo: Changes[];
}

export type Act =
  | { act: 'set'; cells: [CellKey, Terms | null][]; published: Published; version: number }
  | { act: 'undo' }
  | { act: 'redo' }
  | { act: 'discard' }
  | { act: 'load'; draft: Schemas['WholeDraft']; published: Published; version: number }
  | { act: 'carry-over'; published: Published; version: number };

const MOST_STEPS = 200;

export const NO_DRAFT: Draft = { base: 0, changes: {}, undo: [], redo: [] };

export function isEmpty(draft: Draft): boolean {
  return Object.keys(draft.changes).length === 0 && (draft.whole?.more.length ?? 0) === 0;
}

export function reduce(draft: Draft, action: Act): Draft {
  switch (action.act) {
    case 'set': {
      const changes = Object.fromEntries(
        Object.entries(draft.changes).filter(([key]) => !action.cells.some(([changed]) => changed === key)),
      );
      for (const [key, to] of action.cells) {
        const was = action.published.get(key) ?? null;
        if (!sameTerms(to, was)) changes[key] = { to, was };
      }
      return {
        ...draft,
        base: isEmpty(draft) ? action.version : draft.base,
        changes,
        undo: [...draft.undo, draft.changes].slice(-MOST_STEPS),
        redo: [],
      };
    }
    case 'undo': {
      const back = draft.undo.at(-1);
      return back === undefined
        ? draft
        : { ...draft, changes: back, undo: draft.undo.slice(0, -1), redo: [...draft.redo, draft.changes] };
    }
    case 'redo': {
      const again = draft.redo.at(-1);
      return again === undefined
        ? draft
        : { ...draft, changes: again, redo: draft.redo.slice(0, -1), undo: [...draft.undo, draft.changes] };
    }
    case 'discard':
      return NO_DRAFT;
    case 'load': {
      const { document, cells, more } = action.draft;
      const changes: Record<CellKey, Change> = {};
      for (const cell of cells) {
        const key = cellKey(cell.source, cell.target);
        changes[key] = { to: cell.terms ?? null, was: action.published.get(key) ?? null };
      }
      return { base: action.version, whole: { document, more }, changes, undo: [], redo: [] };
    }
    case 'carry-over': {
      const changes: Record<CellKey, Change> = {};
      for (const [key, change] of Object.entries(draft.changes)) {
        const was = action.published.get(key) ?? null;
        if (!sameTerms(change.to, was)) changes[key] = { to: change.to, was };
      }
      // a whole rulebook would take back what the other has published: of it only the cells are carried over
      return { base: action.version, changes, undo: [], redo: [] };
    }
  }
}

/** What a cell would open under, were the draft published. */
export function effective(draft: Draft, now: Published, key: CellKey): Terms | null {
  const change = draft.changes[key];
  return change === undefined ? (now.get(key) ?? null) : change.to;
}

/** What every cell would open under, were the draft published. */
export function effectiveCells(draft: Draft, now: Published): ReadonlyMap<CellKey, Terms> {
  const cells = new Map(now);
  for (const [key, change] of Object.entries(draft.changes)) {
    if (change.to === null) cells.delete(key);
    else cells.set(key, change.to);
  }
  return cells;
}

/** The cells of the draft that somebody else has changed since. */
export function contested(draft: Draft, now: Published): CellKey[] {
  return Object.entries(draft.changes)
    .filter(([key, change]) => !sameTerms(change.was, now.get(key) ?? null))
    .map(([key]) => key);
}

/** As the server takes it. */
export function asCells(draft: Draft): Schemas['DraftCell'][] {
  return Object.entries(draft.changes)
    .toSorted(([one], [other]) => (one < other ? -1 : 1))
    .map(([key, change]) => {
      const [source, target] = cellOf(key);
      return { source, target, ...(change.to !== null && { terms: change.to }) };
    });
}
