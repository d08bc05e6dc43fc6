import type { Schemas } from '../api/client';
import { cellKey, cellOf, type CellKey, type Draft } from './draft';
import { idIn, sortIn } from './paths';
import { FIRST_TERMS, isBought, termsIn, type Terms } from './terms';
import { nameOfThing, without, type Allowance, type Course, type Level } from './things';

export type Grid = Schemas['Grid'];
export type SourceRow = Schemas['SourceRow'];
export type TargetColumn = Schemas['TargetColumn'];

/** "First Hive → Honey Harvest". */
export function titleOf(key: CellKey, grid: Pick<Grid, 'sources' | 'targets'>): string {
  const [from, to] = cellOf(key);
  const source = grid.sources.find((known) => known.source === from);
  const target = grid.targets.find((known) => known.target === to);
  return `${source?.title ?? from} → ${target?.title ?? to}`;
}

/** What is changed in a draft: a cell, or a thing that is none. */
export function nameOfPlace(key: string, draft: Draft, grid: Pick<Grid, 'sources' | 'targets'>): string {
  return key.startsWith('[') ? titleOf(key, grid) : nameOfThing(key, draft.things[key]?.to);
}

/** What opens and what is opened, were the draft published. */
export interface Used {
  cells: ReadonlyMap<CellKey, Terms>;
  /** Links from or to all of a category, which cover cells that are not their own. */
  wide: readonly Wide[];
  sources: ReadonlySet<string>;
  targets: ReadonlySet<string>;
}

interface Wide {
  key: CellKey;
  source: string;
  target: string;
  terms: Terms;
}

export function used(cells: ReadonlyMap<CellKey, Terms>, grid: Grid): Used {
  const sources = new Set<string>();
  const targets = new Set<string>();
  for (const [key] of cells) {
    const [source, target] = cellOf(key);
    sources.add(source);
    targets.add(target);
  }
  const wide = wideOf(cells);
  for (const target of grid.targets) {
    if (wide.some((link) => link.target !== target.target && leadsTo(link, target)))
      targets.add(target.target);
    if (target.parent !== undefined && targets.has(target.target)) targets.add(target.parent);
  }
  for (const row of grid.sources) {
    if (row.sort === 'product' && wide.some((link) => startsAt(link.source, row))) sources.add(row.source);
  }
  return { cells, wide, sources, targets };
}

function wideOf(cells: ReadonlyMap<CellKey, Terms>): Wide[] {
  return [...cells].flatMap(([key, terms]) => {
    const [source, target] = cellOf(key);
    return isOfCategory(source) || isOfCategory(target) ? [{ key, source, target, terms }] : [];
  });
}

function isOfCategory(path: string): boolean {
  return path.startsWith('category/');
}

function startsAt(
  source: string,
  row: Pick<SourceRow, 'source' | 'sort' | 'categories' | 'parent'>,
): boolean {
  return (
    source === row.source ||
    source === row.parent ||
    (isOfCategory(source) && row.categories.includes(idIn(source)))
  );
}

function leadsTo({ target, terms }: Pick<Wide, 'target' | 'terms'>, column: Column): boolean {
  if (target === column.target) return true;
  return (
    isOfCategory(target) &&
    column.sort === 'course' &&
    column.categories.includes(idIn(target)) &&
    terms.except?.includes(idIn(column.target)) !== true
  );
}

type Column = Pick<TargetColumn, 'target' | 'sort' | 'categories'>;

/** A way from something into something that is another link than the one of its cell. */
export interface Around {
  key: CellKey;
  source: string;
  /** "all of Advanced", "anything of Courses": what the link says instead of the thing itself. */
  words: string;
  terms: Terms;
  /** The same link without this course, where it can be left out. */
  without?: Terms;
}

function around(link: Wide, column: Column): Around {
  const { key, source, target, terms } = link;
  const parts = [
    isOfCategory(source) && `anything of ${idIn(source)}`,
    isOfCategory(target) && `all of ${idIn(target)}`,
  ];
  return {
    key,
    source,
    words: parts.filter(Boolean).join(' opens '),
    terms,
    ...(isOfCategory(target) && {
      without: { ...terms, except: [...(terms.except ?? []), idIn(column.target)] },
    }),
  };
}

/** The ways into a course through its category, which have no cell of their own in its column. */
export function waysAround({ wide }: Pick<Used, 'wide'>, column: Column): Around[] {
  return wide
    .filter((link) => isOfCategory(link.target) && link.target !== column.target && leadsTo(link, column))
    .map((link) => around(link, column));
}

/** What opens a cell besides a link of its own: one through a category, or to a whole product for its option. */
export function covering(inUse: Used, row: SourceRow, column: TargetColumn): Around[] {
  const own = cellKey(row.source, column.target);
  const wide = inUse.wide
    .filter((link) => link.key !== own && startsAt(link.source, row) && leadsTo(link, column))
    .map((link) => around(link, column));
  const key = cellKey(row.parent ?? '', column.target);
  const terms = row.parent === undefined ? undefined : inUse.cells.get(key);
  return terms === undefined
    ? wide
    : [...wide, { key, source: row.parent ?? '', words: 'the whole product', terms }];
}

/** Whether an allowance lets a course be chosen; as the engine does it. */
export function admits(
  allowance: Allowance,
  { id, categories = [] }: Pick<Course, 'id' | 'categories'>,
): boolean {
  const from = allowance.categories ?? [];
  return (
    allowance.except?.includes(id) !== true &&
    (from.length === 0 || from.some((category) => categories.includes(category)))
  );
}

/** Whether members get a course as such: some level opens it, or lets it be chosen. */
export function isForMembers(levels: readonly Level[], inUse: Used, column: Column): boolean {
  const ways = [
    ...[...inUse.cells.keys()]
      .map(cellOf)
      .filter(([, target]) => target === column.target)
      .map(([source]) => source),
    ...waysAround(inUse, column).map(({ source }) => source),
  ];
  return choosing(levels, column).length > 0 || ways.some((source) => sortIn(source) === 'level');
}

/** The levels whose holders may choose a course, with how many they may. */
export function choosing(levels: readonly Level[], column: Column): { level: Level; allowance: Allowance }[] {
  if (column.sort !== 'course') return [];
  const course = { id: idIn(column.target), categories: column.categories };
  return levels.flatMap((level) => {
    const { allowance } = level;
    return allowance !== undefined && admits(allowance, course) ? [{ level, allowance }] : [];
  });
}

/** "may be chosen, 2 at a time". */
export function choiceInWords({ courses }: Allowance): string {
  return `may be chosen, ${courses} at a time`;
}

/** Whether a product, one of its options, or the whole product for an option, opens something. */
export function opensSomething(row: SourceRow, grid: Grid, inUse: Used): boolean {
  if (inUse.sources.has(row.source)) return true;
  if (row.parent !== undefined) return inUse.sources.has(row.parent);
  return grid.sources.some((option) => option.parent === row.source && inUse.sources.has(option.source));
}

/** What is seldom used is shown only where it is, or when everything is asked for. */
const SELDOM_SOURCES = new Set(['category', 'completed']);
const SELDOM_TARGETS = new Set(['category', 'section']);

const DRAFTED_ROW = {
  category: 'In your draft',
  categories: [],
  thing: false,
  subscribed: false,
  listed: true,
  buyers: 0,
};

/** With what only the draft knows: a level, say, that a rulebook from a file brings along. */
export function withDrafted(grid: Grid, draft: Draft): Grid {
  const sources = new Map(grid.sources.map((row) => [row.source, row]));
  const targets = new Map(grid.targets.map((column) => [column.target, column]));
  for (const key of Object.keys(draft.changes)) {
    const [source, target] = cellOf(key);
    if (!sources.has(source))
      sources.set(source, { ...DRAFTED_ROW, source, sort: sortIn(source), title: titleIn(draft, source) });
    if (!targets.has(target))
      targets.set(target, {
        target,
        sort: sortIn(target),
        title: titleIn(draft, target),
        category: '',
        categories: [],
        listed: true,
      });
  }
  made(draft, sources, targets);
  return sources.size === grid.sources.length && targets.size === grid.targets.length
    ? grid
    : { ...grid, sources: [...sources.values()], targets: [...targets.values()] };
}

/** Levels, tags and products that the draft makes stand on the grid before anything is mapped to them. */
function made(draft: Draft, sources: Map<string, SourceRow>, targets: Map<string, TargetColumn>) {
  for (const [path, { to }] of Object.entries(draft.things)) {
    const sort = sortIn(path);
    const title = titleIn(draft, path);
    const { categories = [] } = (to ?? {}) as { categories?: string[] };
    if (to !== null && MADE_SOURCES.has(sort) && !sources.has(path))
      sources.set(path, { ...DRAFTED_ROW, source: path, sort, title, categories });
    if (to !== null && MADE_TARGETS.has(sort) && !targets.has(path))
      targets.set(path, {
        target: path,
        sort,
        title,
        category: 'In your draft',
        categories,
        listed: true,
      });
  }
}

const MADE_SOURCES = new Set(['product', 'level', 'tag']);
const MADE_TARGETS = new Set(['course', 'level', 'tag', 'group', 'area', 'download', 'list']);

function titleIn(draft: Draft, path: string): string {
  return (draft.things[path]?.to as { title?: string } | null | undefined)?.title ?? idIn(path);
}

/**
 * What a cell is given that opens nothing yet: what is held or finished opens as long as it is held, what is paid again and again as long as it is paid, a product
 * that opens other things already opens this on the same terms.
 */
export function firstTerms(source: SourceRow, inUse: Used): Terms {
  if (!isBought(source.sort)) return { length: 'held', refund: 'end' };
  for (const from of [source.source, source.parent]) {
    for (const [key, terms] of inUse.cells) {
      if (from !== undefined && cellOf(key)[0] === from) {
        return without(terms, 'tier', 'except', 'applies');
      }
    }
  }
  return source.subscribed ? { length: 'held', refund: 'end' } : FIRST_TERMS;
}

/** Whether a link could be there at all: nothing opens itself. */
export function canOpen(source: string, target: string): boolean {
  return source !== target;
}

/** Terms that links share by name, were the draft published. */
export function sharedTerms(grid: Grid, draft: Draft): Schemas['SharedTerms'][] {
  const shared = new Map(grid.terms.map((one) => [one.id, one]));
  for (const [path, { to }] of Object.entries(draft.things)) {
    if (sortIn(path) !== 'terms') continue;
    const id = idIn(path);
    if (to === null) shared.delete(id);
    else shared.set(id, { id, title: titleIn(draft, path), terms: termsIn((to as { terms: Terms }).terms) });
  }
  return [...shared.values()];
}

export function isSeldom(sort: string): boolean {
  return SELDOM_SOURCES.has(sort) || SELDOM_TARGETS.has(sort);
}

export interface Wish {
  words: string;
  unfinished: boolean;
  everything: boolean;
  /** Courses whose sections are shown, products whose options are not. */
  turned: ReadonlySet<string>;
}

/** What of the grid is shown. */
export function shown(
  grid: Grid,
  inUse: Used,
  wish: Wish,
): { sources: SourceRow[]; targets: TargetColumn[] } {
  const [down = '', across] = wish.words
    .toLowerCase()
    .split('>')
    .map((part) => part.trim());
  const named = (words: string, path: string, title: string) =>
    title.toLowerCase().includes(words) || idIn(path).toLowerCase().includes(words);
  const rows = grid.sources.filter(
    (row) =>
      (wish.everything || !SELDOM_SOURCES.has(row.sort) || inUse.sources.has(row.source)) &&
      (row.parent === undefined || !wish.turned.has(row.parent)),
  );
  const columns = grid.targets.filter(
    (column) =>
      wish.everything ||
      !SELDOM_TARGETS.has(column.sort) ||
      (column.parent !== undefined && wish.turned.has(column.parent)) ||
      (inUse.targets.has(column.target) && column.sort !== 'course'),
  );
  const rowsNamed = rows.filter((row) => named(down, row.source, row.title));
  const columnsNamed = columns.filter((column) => named(across ?? down, column.target, column.title));
  // one word filters sources, and targets only where it names no source; "level > comb" filters both, each by its own
  const both = across !== undefined;
  let sources = both || rowsNamed.length > 0 || columnsNamed.length === 0 ? rowsNamed : rows;
  let targets = both || rowsNamed.length === 0 ? columnsNamed : columns;
  if (wish.unfinished) {
    const idle = sources.filter((row) => isUnfinished(row, grid, inUse));
    const gaps = targets.filter((column) => column.sort === 'course' && !inUse.targets.has(column.target));
    if (idle.length > 0) sources = idle;
    else if (gaps.length > 0) targets = gaps;
    else sources = [];
  }
  return { sources, targets };
}

/** A product that opens nothing, or an option that does not while its siblings do. */
export function isUnfinished(row: SourceRow, grid: Grid, inUse: Used): boolean {
  if (row.sort !== 'product' && row.sort !== 'option') return false;
  if (row.thing || opensSomething(row, grid, inUse)) return false;
  return (
    row.sort === 'product' ||
    grid.sources.some((sibling) => sibling.parent === row.parent && inUse.sources.has(sibling.source))
  );
}
