/** A matching as it is kept (docs/formats/matching.md). */
export interface MatchingDocument {
  yoru: 'matching/1';
  rules: Rule[];
  fields: Record<string, From>;
}

export interface Rule {
  facts: string[];
  when?: Condition[];
}

export interface Condition {
  path: string;
  equals: string;
}

export interface From {
  path?: string;
  constant?: string;
  steps?: Step[];
}

export interface Step {
  do: string;
  text?: string;
  format?: string;
  zone?: string;
  table?: Record<string, string>;
  otherwise?: string;
}

export const NO_MATCHING: MatchingDocument = { yoru: 'matching/1', rules: [], fields: {} };

export const STEPS: { do: string; name: string }[] = [
  { do: 'trim', name: 'leave spaces out' },
  { do: 'lower', name: 'small letters' },
  { do: 'upper', name: 'capital letters' },
  { do: 'first-word', name: 'first word' },
  { do: 'other-words', name: 'all but the first word' },
  { do: 'minor-units', name: 'amount in minor units (18000 is 180.00)' },
  { do: 'decimals', name: 'amount with decimals (1.180,50)' },
  { do: 'date', name: 'time written as …' },
  { do: 'prefix', name: 'put before it …' },
  { do: 'lookup', name: 'look up …' },
];

/** "$.items[*].cents · minor units". */
export function inShort(from: From | undefined): string {
  if (from === undefined) return 'nothing matched';
  const steps = (from.steps ?? []).map((step) => step.do.replaceAll('-', ' '));
  return [from.path ?? `always “${from.constant ?? ''}”`, ...steps].join(' · ');
}

/** A step with what it needs filled in, so that it can be tried at once. */
export function newStep(does: string): Step {
  switch (does) {
    case 'prefix':
      return { do: does, text: 'A-' };
    case 'date':
      return { do: does, format: 'dd/MM/uuuu HH:mm', zone: 'Europe/Dublin' };
    case 'lookup':
      return { do: does, table: { 'their word': 'YOUR-PRODUCT' } };
    default:
      return { do: does };
  }
}

/** "a=B" line by line. */
export function tableInText(table: Record<string, string>): string {
  return Object.entries(table)
    .map(([from, to]) => `${from}=${to}`)
    .join('\n');
}

export function tableOf(text: string): Record<string, string> {
  return Object.fromEntries(
    text
      .split('\n')
      .map((line) => line.split('='))
      .filter((parts): parts is [string, string] => parts.length === 2 && parts[0] !== '')
      .map(([from, to]) => [from.trim(), to.trim()]),
  );
}

/** A value of a report with the path that leads to it. */
export interface Leaf {
  path: string;
  value: string;
  depth: number;
  /** What stands before the value on its line. */
  label: string;
  /** Lines such as "{" that cannot be picked. */
  bracket?: true;
}

/** A value as a condition compares it: text without its quotes. */
export function plainly(value: string): string {
  return value.startsWith('"') ? (JSON.parse(value) as string) : value;
}

/** The same rules, of which one holds only where something in the report is what it was in the one that was clicked. */
export function withCondition(rules: Rule[], number: number, path: string, value: string): Rule[] {
  return rules.map((rule, at) =>
    at === number
      ? {
          ...rule,
          when: [...(rule.when ?? []).filter((one) => one.path !== path), { path, equals: value }],
        }
      : rule,
  );
}

/** "items[0].code" of "$.items[0].code": where in a report something stands. */
export function placeInWords(path: string): string {
  return path.replace(/^\$\.?/, '');
}

const PLAIN_NAME = /^[\p{L}_][\p{L}\p{N}_]*$/u;

/** A report line by line, each value with its JSONPath (RFC 9535). */
export function leaves(json: unknown, path = '$', depth = 0, label = ''): Leaf[] {
  if (typeof json !== 'object' || json === null) {
    return [{ path, value: JSON.stringify(json), depth, label }];
  }
  const [open, close] = Array.isArray(json) ? ['[', ']'] : ['{', '}'];
  const members = Array.isArray(json)
    ? json.flatMap((member: unknown, at) => leaves(member, `${path}[${at}]`, depth + 1))
    : Object.entries(json).flatMap(([name, member]) =>
        leaves(member, path + step(name), depth + 1, `${JSON.stringify(name)}: `),
      );
  return [
    { path, value: open, depth, label, bracket: true },
    ...members,
    { path, value: close, depth, label: '', bracket: true },
  ];
}

function step(name: string): string {
  return PLAIN_NAME.test(name) ? `.${name}` : `[${JSON.stringify(name)}]`;
}

/**
 * The path for a field when a value is picked. Fields of a line begin anew within the element of the list; picking
 * within a list for the field "lines" means all its elements.
 */
export function pickedPath(field: string, path: string, lines: string | undefined): string {
  if (field === 'lines') {
    const list = path.lastIndexOf('[');
    return list < 0 ? path : `${path.slice(0, list)}[*]`;
  }
  if (field.startsWith('line.') && lines !== undefined) {
    const list = lines.replace(/\[\*\]$/, '');
    const element = path.slice(list.length).match(/^\[\d+\](.*)$/);
    if (path.startsWith(list) && element !== null) return `$${element[1] ?? ''}`;
  }
  return path;
}

/** Whether a value of the report is what some field is matched with. */
export function usedBy(path: string, document: MatchingDocument): string[] {
  const lines = document.fields['lines']?.path;
  return Object.entries(document.fields)
    .filter(
      ([field, from]) =>
        from.path !== undefined && from.path === pickedPath(field, path, lines) && field !== 'lines',
    )
    .map(([field]) => field);
}
