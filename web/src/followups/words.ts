import type { Things } from '../mapping/things';
import { all } from '../mapping/things';
import type { Draft } from '../mapping/draft';
import { periodInWords } from '../ui/periods';
import {
  kindOfCondition,
  kindOfStep,
  kindOfWhen,
  sortOfTarget,
  targets,
  type Code,
  type Condition,
  type Once,
  type Sold,
  type Step,
  type Target,
  type When,
  type WhenKind,
} from './model';

/** What things are called, were the draft published. */
export interface Names {
  product: (id: string) => string;
  option: (id: string) => string;
  thing: (sort: string, id: string) => string;
  currency: string;
}

export function namesIn(things: Things, draft: Draft): Names {
  const titles = new Map<string, string>();
  const options = new Map<string, string>();
  for (const sort of ['course', 'product', 'level', 'tag', 'group', 'area', 'download', 'list'] as const) {
    for (const thing of all(things, draft, sort)) {
      titles.set(`${sort}/${thing.id}`, thing.title ?? thing.id);
      for (const option of (thing as { options?: { id: string; title?: string }[] }).options ?? [])
        options.set(option.id, `${thing.title ?? thing.id}, ${option.title ?? option.id}`);
    }
  }
  const thing = (sort: string, id: string) => titles.get(`${sort}/${id}`) ?? id;
  return {
    thing,
    product: (id) => thing('product', id),
    option: (id) => options.get(id) ?? id,
    currency: things.school.currency,
  };
}

/** How each kind of occasion goes on after "When", before and after what it is about. */
const WHEN_WORDS: Record<WhenKind, [before: string, after: string]> = {
  placed: ['somebody has ordered', ''],
  paid: ['somebody has paid for', ''],
  fulfilled: ['an order of', 'is fulfilled'],
  cancelled: ['an order of', 'is cancelled'],
  refunded: ['', 'is paid back'],
  claimed: ['somebody has taken up a seat or gift of', ''],
  subscription: ['a subscription of', ''],
  opened: ['', 'has opened for somebody'],
  ended: ['', 'has ended for somebody'],
  ending: ['', 'ends for somebody'],
  completed: ['somebody has finished', ''],
  account: ['somebody has an account in', ''],
};

export const TURN_WORDS = {
  started: 'begins',
  trial: 'begins as a trial',
  renewed: 'is renewed',
  failed: 'is not paid',
  cancelled: 'is cancelled',
};

/** What stands before and after that which the occasion is about. */
export function aroundAbout(when: When): [before: string, after: string] {
  const kind = kindOfWhen(when);
  const [before, after] = WHEN_WORDS[kind];
  if (kind === 'subscription') return [before, TURN_WORDS[when.subscription?.what ?? 'started']];
  if (kind === 'ending') return [before, `${after} in ${periodInWords(when.ending?.before ?? '')}`];
  return [before, after];
}

/** The kind as one chooses it: "somebody has paid for …". */
export function kindInWords(kind: WhenKind): string {
  const [before, after] = WHEN_WORDS[kind];
  return kind === 'subscription'
    ? 'a subscription of … begins, is renewed, is not paid, is cancelled'
    : [before, '…', after, ...(kind === 'ending' ? ['soon'] : [])].filter((part) => part !== '').join(' ');
}

/** All of it, as it goes on after "When". */
export function whenInWords(when: When, names: Names): string {
  const [before, after] = aroundAbout(when);
  return [before, aboutInWords(when, names), after].filter((part) => part !== '').join(' ');
}

/** What the occasion is about. */
export function aboutInWords(when: When, names: Names): string {
  switch (kindOfWhen(when)) {
    case 'subscription':
      return soldInWords(when.subscription?.of ?? {}, names);
    case 'opened':
      return targetsInWords(targets(when.opened), names, 'or');
    case 'ended':
      return targetsInWords(targets(when.ended), names, 'or');
    case 'ending':
      return targetsInWords(targets(when.ending?.of), names, 'or');
    case 'completed':
      return listed(
        (when.completed ?? []).map((id) => names.thing('course', id)),
        'or',
        'a course',
      );
    case 'account':
      return listed(when.account ?? [], 'or', 'a system');
    default:
      return soldInWords(Object.values(when)[0] as Sold, names);
  }
}

export const ONCE_WORDS: Record<Once, string> = {
  always: 'every time',
  order: 'once per order',
  thing: 'once for each thing',
  person: 'the first time only',
};

const NAMED = 4;

export function listed(names: string[], last: 'and' | 'or', nothing: string): string {
  if (names.length === 0) return nothing;
  if (names.length > NAMED)
    return `${names.slice(0, NAMED - 1).join(', ')} ${last} ${names.length - NAMED + 1} more`;
  if (names.length === 1) return names[0] ?? '';
  return `${names.slice(0, -1).join(', ')} ${last} ${names.at(-1)}`;
}

export function soldInWords(sold: Sold, names: Names): string {
  return listed(
    [
      ...(sold.categories ?? []).map((category) => `any of ${category}`),
      ...(sold.products ?? []).map(names.product),
      ...(sold.options ?? []).map(names.option),
    ],
    'or',
    'anything',
  );
}

const OF_ROW = /^\{\{\s*row\.(.+?)\s*\}\}$/;

export function targetInWords(target: Target, names: Names): string {
  const sort = sortOfTarget(target);
  if (sort === 'section') return `the section ${target.section?.[1] ?? ''}`;
  const id = target[sort] ?? '';
  const ofRow = OF_ROW.exec(id)?.[1];
  if (ofRow !== undefined) return `the ${sort} in the row’s ${ofRow}`;
  if (sort === 'category') return `any course of ${id}`;
  return sort === 'course' ? names.thing(sort, id) : `the ${sort} ${names.thing(sort, id)}`;
}

export function targetsInWords(all: Target[], names: Names, last: 'and' | 'or'): string {
  return listed(
    all.map((target) => targetInWords(target, names)),
    last,
    'something',
  );
}

export function conditionInWords(condition: Condition, names: Names): string {
  if (condition.not !== undefined) {
    const inner = condition.not;
    return inner.has === undefined
      ? `it is not so that ${conditionInWords(inner, names)}`
      : `they do not have ${targetsInWords(targets(inner.has), names, 'or')}`;
  }
  switch (kindOfCondition(condition)) {
    case 'has':
      return `they have ${targetsInWords(targets(condition.has), names, 'or')}`;
    case 'had':
      return `they had ${targetsInWords(targets(condition.had), names, 'or')} before and have it no longer`;
    case 'bought':
      return boughtInWords(condition.bought, names);
    case 'amount':
      return `the order comes to ${condition.amount?.atLeast ?? '…'} ${names.currency} or more`;
    case 'channel':
      return condition.channel === 'hand' ? 'it was entered by hand' : 'it was sold in a shop';
    case 'field':
      return `the field ${condition.field?.name ?? '…'} says “${condition.field?.is ?? ''}”`;
    case 'any':
      return (condition.any ?? []).map((one) => conditionInWords(one, names)).join(', or ');
  }
}

const BOUGHT = { placed: 'they ordered', paid: 'they bought', kept: 'they bought and kept' };

function boughtInWords(bought: Condition['bought'], names: Names): string {
  if (bought === undefined) return '…';
  const { atLeast, atMost, counts = 'paid' } = bought;
  const what = soldInWords(bought.of, names);
  if (atMost === 0) return `${BOUGHT[counts]} none of ${what} before`;
  const times =
    atLeast === undefined
      ? `at most ${atMost} times`
      : atMost === undefined
        ? `at least ${atLeast === 1 ? 'once' : `${atLeast} times`}`
        : `${atLeast} to ${atMost} times`;
  return `${BOUGHT[counts]} ${what} ${times} before`;
}

export function conditionsInWords(conditions: Condition[], names: Names): string {
  return conditions.map((condition) => conditionInWords(condition, names)).join(' and ');
}

export function codeInWords(code: Code, names: Names): string {
  const worth = code.percent === undefined ? `${code.amount ?? '…'} ${names.currency}` : `${code.percent} %`;
  return `a code for ${worth} off`;
}

/** A step in a few words. */
export function stepInWords(step: Step, names: Names): string {
  switch (kindOfStep(step)) {
    case 'give':
      return `give ${targetsInWords(step.give?.to ?? [], names, 'and')}`;
    case 'take':
      return `take ${targetsInWords(step.take?.from ?? [], names, 'and')} away`;
    case 'set':
      return `set the field ${step.set?.field ?? ''} to “${step.set?.value ?? ''}”`;
    case 'write':
      return `write “${step.write?.subject ?? ''}”`;
    case 'tell':
      return `tell the team “${step.tell?.text ?? ''}”`;
    case 'wait':
      return typeof step.wait === 'string'
        ? `wait ${periodInWords(step.wait)}`
        : `wait until ${step.wait?.at ?? ''}`;
    case 'if':
      return `if ${conditionsInWords(step.if ?? [], names)}`;
    case 'stop':
      return 'stop here';
  }
}
