import type {
  Course,
  Door,
  Level,
  Named,
  Product as RulebookProduct,
  RulebookOfASchool,
  School,
} from '../api/rulebook';
import type { Draft, Lookup } from './draft';
import { idIn, sortIn } from './paths';
import type { Terms } from './terms';

/** A rulebook's document without its links. */
export type Things = Omit<RulebookOfASchool, 'yoru' | 'links' | 'products' | 'namedTerms'> & {
  products?: Product[];
  namedTerms?: SharedTerms[];
};

export type OpensOn = NonNullable<School['opensOn']>;
export type Ladder = NonNullable<School['ladders']>[number];
export type TagName = NonNullable<School['tagNames']>[number];
export type TagRole = TagName['role'];
export type Section = NonNullable<Course['sections']>[number];
export type Allowance = NonNullable<Level['allowance']>;

/** What the schema says of it depends on its kind; here a form goes from one kind to another. */
export interface Billing {
  kind: 'once' | 'free' | 'instalments' | 'recurring';
  count?: number;
  every?: string;
  grace?: string;
  trialGrace?: string;
  cycles?: number;
  afterLast?: 'end' | 'keep';
}

export type Product = Omit<RulebookProduct, 'billing'> & { billing?: Billing };

export interface SharedTerms extends Named {
  terms: Partial<Terms>;
}

export type { Course, Door, Level, Named, School };

const LISTS = {
  course: 'courses',
  product: 'products',
  level: 'levels',
  tag: 'tags',
  group: 'groups',
  area: 'areas',
  download: 'downloads',
  list: 'lists',
  terms: 'namedTerms',
} as const;

export type Sort = keyof typeof LISTS;

export const SORTS = Object.keys(LISTS) as Sort[];

export function isSort(text: string): text is Sort {
  return text in LISTS;
}

/** What sorts of things are called. */
export const SORT_WORDS: Record<Sort, { one: string; many: string }> = {
  course: { one: 'course', many: 'Courses' },
  product: { one: 'product', many: 'Products' },
  level: { one: 'level', many: 'Levels' },
  tag: { one: 'tag', many: 'Tags' },
  group: { one: 'group', many: 'Groups' },
  area: { one: 'area', many: 'Areas' },
  download: { one: 'download', many: 'Downloads' },
  list: { one: 'list', many: 'Lists' },
  terms: { one: 'terms', many: 'Terms under a name' },
};

/** Things of a sort in the rulebook in force. */
function listed(things: Things, sort: Sort): Named[] {
  return things[LISTS[sort]] ?? [];
}

/** How a thing stands in the rulebook in force, by its path. */
export function lookup(things: Things | undefined): Lookup {
  return (path) => {
    if (things === undefined) return null;
    const [sort, id] = [sortIn(path), idIn(path)];
    if (sort === 'school') return things.school[id as keyof School] ?? null;
    if (sort === 'door') return (things.doors ?? []).find((one) => one.id === id) ?? null;
    if (sort === 'followup') return (things.followups ?? []).find((one) => one.id === id) ?? null;
    return isSort(sort) ? (listed(things, sort).find((thing) => thing.id === id) ?? null) : null;
  };
}

/** How a thing stands were the draft published; null = it is not there. */
export function drafted(things: Things, draft: Draft): Lookup {
  const now = lookup(things);
  return (path) => (path in draft.things ? withId(path, draft.things[path]?.to) : now(path));
}

/** All things of a sort were the draft published. */
export function all(things: Things, draft: Draft, sort: Sort): Named[] {
  const known = listed(things, sort).map((thing) => thing.id);
  const made = Object.keys(draft.things)
    .filter((path) => path.startsWith(`${sort}/`))
    .map(idIn);
  const at = drafted(things, draft);
  return [...new Set([...known, ...made])].flatMap((id) => (at(`${sort}/${id}`) as Named | null) ?? []);
}

/** The follow-ups were the draft published, in the rulebook's order, new ones last. */
export function followupsIn(things: Things, draft: Draft): Named[] {
  const known = (things.followups ?? []).map((one) => `followup/${one.id}`);
  const made = Object.keys(draft.things).filter((path) => path.startsWith('followup/'));
  const at = drafted(things, draft);
  return [...new Set([...known, ...made])].flatMap((path) => (at(path) as Named | null) ?? []);
}

function withId(path: string, thing: unknown): unknown {
  const [sort, id] = [sortIn(path), idIn(path)];
  return sort === 'school' || thing == null ? (thing ?? null) : { ...thing, id };
}

/** What a change of the draft is about: "Level Keeper", "Opens on". */
export function nameOfThing(path: string, thing: unknown): string {
  const [sort, id] = [sortIn(path), idIn(path)];
  if (sort === 'school') return SCHOOL_WORDS[id] ?? id;
  if (sort === 'door') return `Door of ${id === 'school' ? 'the school' : idIn(id)}`;
  const title = (thing as Named | null)?.title ?? id;
  const word = isSort(sort) ? SORT_WORDS[sort].one : sort === 'followup' ? 'follow-up' : sort;
  return `${word.charAt(0).toUpperCase()}${word.slice(1)} ${title}`;
}

const SCHOOL_WORDS: Record<string, string> = {
  tiers: 'The tiers of courses',
  opensOn: 'When things open',
  ladders: 'The ladders of levels',
  tagNames: 'The names of tags',
  zone: 'The time zone',
  currency: 'The currency',
};

/** An id for something new, of its title: "Half a year" is "half-a-year". */
export function idFor(title: string, taken: (id: string) => boolean): string {
  const plain =
    title
      .normalize('NFKD')
      .replaceAll(/\p{M}/gu, '')
      .toLowerCase()
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-|-$/g, '') || 'new';
  let id = plain;
  for (let n = 2; taken(id); n++) id = `${plain}-${n}`;
  return id;
}

/** The same without some of its parts: what is left out has its default. */
export function without<T extends object, K extends keyof T>(thing: T, ...parts: K[]): Omit<T, K> {
  return Object.fromEntries(
    Object.entries(thing).filter(([part]) => !parts.some((left) => left === part)),
  ) as Omit<T, K>;
}
