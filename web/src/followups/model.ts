/** A follow-up as it stands in a rulebook's document, loosely: while it is edited a part may be missing. */
export interface Followup {
  id: string;
  title?: string;
  on?: boolean;
  since?: string;
  when: When;
  each?: 'order' | 'line';
  once?: Once;
  only?: Condition[];
  while?: Condition[];
  lasts?: 'cause' | 'always';
  steps: Step[];
  rows?: Row[];
}

export type Once = 'always' | 'order' | 'thing' | 'person';

export interface Sold {
  products?: string[];
  options?: string[];
  categories?: string[];
}

export const TARGET_SORTS = [
  'course',
  'category',
  'section',
  'tag',
  'level',
  'group',
  'area',
  'download',
  'list',
] as const;
export type TargetSort = (typeof TARGET_SORTS)[number];

/** One target: an object with one of the sorts. */
export type Target = Partial<Record<Exclude<TargetSort, 'section'>, string>> & {
  section?: [string, string];
  except?: string[];
};

export type Turn = 'started' | 'trial' | 'renewed' | 'failed' | 'cancelled';

/** An object with exactly one of these. */
export interface When {
  placed?: Sold;
  paid?: Sold;
  fulfilled?: Sold;
  cancelled?: Sold;
  refunded?: Sold;
  claimed?: Sold;
  subscription?: { what: Turn; of: Sold };
  opened?: Target | Target[];
  ended?: Target | Target[];
  ending?: { of: Target | Target[]; before: string };
  completed?: string[];
  account?: string[];
}

export type WhenKind = keyof When;

export interface Bought {
  of: Sold;
  counts?: 'placed' | 'paid' | 'kept';
  atLeast?: number;
  atMost?: number;
}

export interface Condition {
  has?: Target | Target[];
  had?: Target | Target[];
  bought?: Bought;
  amount?: { atLeast: string };
  channel?: 'shop' | 'hand';
  field?: { name: string; is: string };
  any?: Condition[];
  not?: Condition;
}

export type ConditionKind = Exclude<keyof Condition, 'not'>;

export interface Code {
  percent?: number;
  amount?: string;
  of?: Sold;
  expires?: string;
  uses?: number;
}

export interface Step {
  give?: { to: Target[]; length?: string };
  take?: { from: Target[] };
  set?: { field: string; value: string };
  write?: { subject: string; text: string; code?: Code };
  tell?: { text: string };
  wait?: string | { at: string };
  if?: Condition[];
  then?: Step[];
  otherwise?: Step[];
  stop?: Record<string, never>;
}

export type StepKind = 'give' | 'take' | 'set' | 'write' | 'tell' | 'wait' | 'if' | 'stop';

export interface Row {
  for: Target & { product?: string };
  values: Record<string, string>;
}

const STEP_KINDS: StepKind[] = ['give', 'take', 'set', 'write', 'tell', 'wait', 'if', 'stop'];
const ORDER_KINDS: WhenKind[] = ['placed', 'paid', 'fulfilled', 'cancelled', 'refunded'];

export function kindOfWhen(when: When): WhenKind {
  return (Object.keys(when)[0] ?? 'paid') as WhenKind;
}

export function kindOfStep(step: Step): StepKind {
  return STEP_KINDS.find((kind) => kind in step) ?? 'stop';
}

export function kindOfCondition(condition: Condition): ConditionKind {
  return (Object.keys(condition)[0] ?? 'has') as ConditionKind;
}

export function targets(one: Target | Target[] | undefined): Target[] {
  return one === undefined ? [] : Array.isArray(one) ? one : [one];
}

export function sortOfTarget(target: Target): TargetSort {
  return TARGET_SORTS.find((sort) => sort in target) ?? 'tag';
}

/** Whether its occasions are about an order as a whole or about a line. */
export function isOfOrder(when: When): boolean {
  return ORDER_KINDS.includes(kindOfWhen(when));
}

/** Whether its occasions are about something that can have a row. */
export function hasThing(followup: Pick<Followup, 'when' | 'each'>): boolean {
  if (isOfOrder(followup.when)) return followup.each === 'line';
  return kindOfWhen(followup.when) !== 'account';
}

/** How often it serves where nothing is said. */
export function usualOnce(followup: Pick<Followup, 'when' | 'each'>): Once {
  if (kindOfWhen(followup.when) === 'ending') return 'always';
  if (hasThing(followup)) return 'thing';
  return isOfOrder(followup.when) ? 'order' : 'person';
}

/** Which ways of counting there are for it. */
export function onces(followup: Pick<Followup, 'when' | 'each'>): Once[] {
  const ways: Once[] = ['always'];
  if (isOfOrder(followup.when) || kindOfWhen(followup.when) === 'claimed') ways.push('order');
  if (hasThing(followup)) ways.push('thing');
  return [...ways, 'person'];
}

/** The way to a step: 0, then the branch and the place in it, … */
export type Way = (number | 'then' | 'otherwise')[];

/** As rows and runs call it: `4.then.1`. */
export function placeOf(way: Way): string {
  return way.map((part) => (typeof part === 'number' ? part + 1 : part)).join('.');
}

/** The same steps with others in the list in which the way's last step stands. */
function within(steps: Step[], way: Way, change: (list: Step[], at: number) => Step[]): Step[] {
  const [at, branch, ...rest] = way;
  if (typeof at !== 'number') return steps;
  if (branch === undefined) return change(steps, at);
  return steps.map((step, index) =>
    index === at && (branch === 'then' || branch === 'otherwise')
      ? cleaned({ ...step, [branch]: within(step[branch] ?? [], rest, change) })
      : step,
  );
}

/** Without a branch in which nothing is done; one of the two must stay. */
function cleaned(step: Step): Step {
  if (step.if === undefined) return step;
  const { then, otherwise, ...rest } = step;
  const kept = {
    ...rest,
    ...((then?.length ?? 0) > 0 && { then }),
    ...((otherwise?.length ?? 0) > 0 && { otherwise }),
  };
  return kept;
}

export function withStep(steps: Step[], way: Way, step: Step): Step[] {
  return within(steps, way, (list, at) => list.map((one, index) => (index === at ? step : one)));
}

/** Before the step at the way, or at the end where there is none. */
export function inserted(steps: Step[], way: Way, step: Step): Step[] {
  return within(steps, way, (list, at) => [...list.slice(0, at), step, ...list.slice(at)]);
}

export function removed(steps: Step[], way: Way): Step[] {
  return within(steps, way, (list, at) => list.filter((_, index) => index !== at));
}

export function moved(steps: Step[], way: Way, by: 1 | -1): Step[] {
  return within(steps, way, (list, at) => {
    const to = at + by;
    const one = list[at];
    if (one === undefined || to < 0 || to >= list.length) return list;
    const rest = list.filter((_, index) => index !== at);
    return [...rest.slice(0, to), one, ...rest.slice(to)];
  });
}

/** All steps, however deep. */
export function allSteps(steps: Step[]): Step[] {
  return steps.flatMap((step) => [step, ...allSteps(step.then ?? []), ...allSteps(step.otherwise ?? [])]);
}

/** Placeholders of the row that a follow-up asks for. */
export function columnsAskedFor(followup: Followup): string[] {
  const text = JSON.stringify(followup.steps);
  return [...new Set([...text.matchAll(/\{\{\s*row\.([^{}\s]+)\s*\}\}/g)].map((found) => found[1] ?? ''))];
}

/** The columns of its table, in the order in which they came. */
export function columns(followup: Followup): string[] {
  return [
    ...new Set([
      ...(followup.rows ?? []).flatMap((row) => Object.keys(row.values)),
      ...columnsAskedFor(followup),
    ]),
  ];
}

/** The rows with every column in each, so that one that lacks a value has an empty one. */
export function evened(rows: Row[], names: string[]): Row[] {
  return rows.map((row) => ({
    ...row,
    values: Object.fromEntries(names.map((name) => [name, row.values[name] ?? ''])),
  }));
}

/** Of the values of a column, one that is unlike all others, which are alike. */
export function oddOneOut(values: string[]): number | undefined {
  if (values.length < 3) return undefined;
  const known = new Map<string, number[]>();
  values.forEach((value, at) => known.set(value, [...(known.get(value) ?? []), at]));
  if (known.size !== 2) return undefined;
  const single = [...known.values()].find((places) => places.length === 1);
  return single?.[0];
}

/** Lines and cells of what a spreadsheet puts on the clipboard. */
export function pastedCells(text: string): string[][] {
  return text
    .replaceAll('\r\n', '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t').map((cell) => cell.trim()));
}
