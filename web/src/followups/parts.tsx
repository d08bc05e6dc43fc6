import { useState } from 'react';
import { matches } from '../desk/offer';
import { all, type Things, without } from '../mapping/things';
import type { Draft } from '../mapping/draft';
import { Finder } from '../ui/Finder';
import { Button, Check, Checkbox, FieldFrame, Input, Notice, Period, Select, TextArea } from '../ui/kit';
import {
  kindOfCondition,
  kindOfWhen,
  sortOfTarget,
  targets,
  type Code,
  type Condition,
  type ConditionKind,
  type Sold,
  type Target,
  type Turn,
  type When,
  type WhenKind,
} from './model';
import { kindInWords, TURN_WORDS, soldInWords, targetInWords, type Names } from './words';

const MOST_FOUND = 8;

/** What can be named while one edits. */
export interface Known {
  things: Things;
  draft: Draft;
  names: Names;
  /** Systems that can report accounts. */
  systems: { id: string; title: string }[];
  /** What no system that is on can do, though a step may need it. */
  lacking: { codes: boolean; fields: boolean; letters: boolean };
  /** The columns of the table, where there is one: ids can come from it. */
  columns: string[];
}

interface Sellable {
  key: string;
  title: string;
  of: keyof Sold;
  id: string;
}

function sellable({ things, draft, names }: Known): Sellable[] {
  const products = all(things, draft, 'product') as {
    id: string;
    title?: string;
    categories?: string[];
    options?: { id: string }[];
  }[];
  const categories = [...new Set(products.flatMap((product) => product.categories ?? []))];
  return [
    ...categories.map((id): Sellable => ({ key: `c/${id}`, title: `any of ${id}`, of: 'categories', id })),
    ...products.map(({ id, title }): Sellable => ({
      key: `p/${id}`,
      title: title ?? id,
      of: 'products',
      id,
    })),
    ...products.flatMap((product) =>
      (product.options ?? []).map(({ id }): Sellable => ({
        key: `o/${id}`,
        title: names.option(id),
        of: 'options',
        id,
      })),
    ),
  ];
}

/** Things that are sold, of which one is enough; none chosen = anything. */
export function SoldEditor({
  sold,
  known,
  onChange,
}: {
  sold: Sold;
  known: Known;
  onChange: (sold: Sold) => void;
}) {
  const [words, setWords] = useState('');
  const offered = sellable(known);
  const isChosen = (one: Sellable) => (sold[one.of] ?? []).includes(one.id);
  const chosen = offered.filter(isChosen);
  const set = (of: keyof Sold, ids: string[]) => {
    const rest = without(sold, of);
    onChange(ids.length === 0 ? rest : { ...rest, [of]: ids });
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      {chosen.length === 0 && <span className="text-soft">anything, or only:</span>}
      {chosen.map((one) => (
        <Button
          key={one.key}
          small
          type="button"
          aria-label={`Without ${one.title}`}
          onClick={() =>
            set(
              one.of,
              (sold[one.of] ?? []).filter((id) => id !== one.id),
            )
          }
        >
          {one.title} ×
        </Button>
      ))}
      <div className="w-64">
        <Finder
          label="Product, option or category"
          placeholder={chosen.length === 0 ? 'product, option, category' : 'or another'}
          words={words}
          onWords={setWords}
          found={offered
            .filter((one) => !isChosen(one) && matches(words, one.title, one.id))
            .slice(0, MOST_FOUND)}
          idOf={(one) => one.key}
          show={(one) => one.title}
          onChoose={(one) => set(one.of, [...(sold[one.of] ?? []), one.id])}
          nothing="Nothing is called that."
        />
      </div>
    </div>
  );
}

interface Openable {
  key: string;
  title: string;
  sort: string;
  target: Target;
}

const OF_ROW_SORTS = ['course', 'tag', 'level', 'group', 'area', 'download', 'list'] as const;

function openable({ things, draft, columns }: Known, ofRow: boolean): Openable[] {
  const courses = all(things, draft, 'course') as { id: string; title?: string; categories?: string[] }[];
  const categories = [...new Set(courses.flatMap((course) => course.categories ?? []))];
  const plain = (['course', 'level', 'tag', 'group', 'area', 'download', 'list'] as const).flatMap((sort) =>
    all(things, draft, sort).map(({ id, title }): Openable => ({
      key: `${sort}/${id}`,
      title: title ?? id,
      sort,
      target: { [sort]: id },
    })),
  );
  return [
    ...(ofRow
      ? columns.flatMap((column) =>
          OF_ROW_SORTS.map((sort): Openable => ({
            key: `row/${sort}/${column}`,
            title: `the row’s ${column}`,
            sort: `as ${sort}`,
            target: { [sort]: `{{row.${column}}}` },
          })),
        )
      : []),
    ...categories.map((id): Openable => ({
      key: `category/${id}`,
      title: `any course of ${id}`,
      sort: 'category',
      target: { category: id },
    })),
    ...plain,
  ];
}

function keyOf(target: Target): string {
  const sort = sortOfTarget(target);
  return sort === 'section' ? `section/${target.section?.join('/')}` : `${sort}/${target[sort] ?? ''}`;
}

/** Things that can be open. */
export function TargetsEditor({
  chosen,
  known,
  ofRow = false,
  onChange,
}: {
  chosen: Target[];
  known: Known;
  /** Whether ids can come from the table. */
  ofRow?: boolean;
  onChange: (targets: Target[]) => void;
}) {
  const [words, setWords] = useState('');
  const keys = chosen.map(keyOf);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {chosen.map((target, at) => (
        <Button
          key={keyOf(target)}
          small
          type="button"
          aria-label={`Without ${targetInWords(target, known.names)}`}
          onClick={() => onChange(chosen.filter((_, other) => other !== at))}
        >
          {targetInWords(target, known.names)} ×
        </Button>
      ))}
      <div className="w-64">
        <Finder
          label="Course, tag, level, area …"
          placeholder={chosen.length === 0 ? 'course, tag, level, area …' : 'another'}
          words={words}
          onWords={setWords}
          found={openable(known, ofRow)
            .filter((one) => !keys.includes(keyOf(one.target)) && matches(words, one.title, one.sort))
            .slice(0, MOST_FOUND)}
          idOf={(one) => one.key}
          show={(one) => (
            <>
              <strong>{one.title}</strong> <span className="text-soft">{one.sort}</span>
            </>
          )}
          onChoose={(one) => onChange([...chosen, one.target])}
          nothing="Nothing is called that."
        />
      </div>
    </div>
  );
}

const WHEN_GROUPS: [group: string, kinds: WhenKind[]][] = [
  ['Orders', ['placed', 'paid', 'fulfilled', 'cancelled', 'refunded', 'claimed']],
  ['Subscriptions', ['subscription']],
  ['What is open', ['opened', 'ended', 'ending']],
  ['Learning and accounts', ['completed', 'account']],
];

/** What stays of an occasion when its kind becomes another one. */
function becomeWhen(when: When, kind: WhenKind): When {
  const sold =
    when.subscription?.of ??
    (['placed', 'paid', 'fulfilled', 'cancelled', 'refunded', 'claimed'] as const)
      .map((each) => when[each])
      .find((each) => each !== undefined) ??
    {};
  const named = targets(when.opened ?? when.ended ?? when.ending?.of);
  switch (kind) {
    case 'subscription':
      return { subscription: { what: 'started', of: sold } };
    case 'opened':
      return { opened: named };
    case 'ended':
      return { ended: named };
    case 'ending':
      return { ending: { of: named, before: 'P14D' } };
    case 'completed':
      return { completed: [] };
    case 'account':
      return { account: [] };
    default:
      return { [kind]: sold };
  }
}

/** What is waited for. */
export function WhenEditor({
  when,
  known,
  onChange,
}: {
  when: When;
  known: Known;
  onChange: (when: When) => void;
}) {
  const kind = kindOfWhen(when);
  return (
    <div className="grid gap-3">
      <Select
        aria-label="What is waited for"
        className="w-full max-w-md"
        value={kind}
        onChange={(event) => onChange(becomeWhen(when, event.target.value as WhenKind))}
      >
        {WHEN_GROUPS.map(([group, kinds]) => (
          <optgroup key={group} label={group}>
            {kinds.map((one) => (
              <option key={one} value={one}>
                When {kindInWords(one)}
              </option>
            ))}
          </optgroup>
        ))}
      </Select>
      <AboutEditor when={when} known={known} onChange={onChange} />
    </div>
  );
}

function AboutEditor({
  when,
  known,
  onChange,
}: {
  when: When;
  known: Known;
  onChange: (when: When) => void;
}) {
  const kind = kindOfWhen(when);
  switch (kind) {
    case 'subscription': {
      const { what, of } = when.subscription ?? { what: 'started' as Turn, of: {} };
      return (
        <>
          <SoldEditor
            sold={of}
            known={known}
            onChange={(sold) => onChange({ subscription: { what, of: sold } })}
          />
          <Select
            aria-label="What becomes of it"
            value={what}
            onChange={(event) => onChange({ subscription: { what: event.target.value as Turn, of } })}
          >
            {Object.entries(TURN_WORDS).map(([turn, words]) => (
              <option key={turn} value={turn}>
                {words}
              </option>
            ))}
          </Select>
        </>
      );
    }
    case 'opened':
    case 'ended':
      return (
        <TargetsEditor
          chosen={targets(when[kind])}
          known={known}
          onChange={(chosen) => onChange({ [kind]: chosen })}
        />
      );
    case 'ending': {
      const { of, before } = when.ending ?? { of: [], before: 'P14D' };
      return (
        <>
          <TargetsEditor
            chosen={targets(of)}
            known={known}
            onChange={(chosen) => onChange({ ending: { of: chosen, before } })}
          />
          <span className="flex items-center gap-2">
            so long before:{' '}
            <Period value={before} onChange={(period) => onChange({ ending: { of, before: period } })} />
          </span>
        </>
      );
    }
    case 'completed':
      return (
        <TargetsEditor
          chosen={(when.completed ?? []).map((course) => ({ course }))}
          known={known}
          onChange={(chosen) => onChange({ completed: chosen.flatMap((target) => target.course ?? []) })}
        />
      );
    case 'account':
      return (
        <div className="flex flex-wrap gap-3">
          {known.systems.map(({ id, title }) => (
            <Check key={id}>
              <Checkbox
                checked={(when.account ?? []).includes(id)}
                onChange={(event) =>
                  onChange({
                    account: event.target.checked
                      ? [...(when.account ?? []), id]
                      : (when.account ?? []).filter((other) => other !== id),
                  })
                }
              />
              {title}
            </Check>
          ))}
        </div>
      );
    default:
      return (
        <SoldEditor sold={when[kind] ?? {}} known={known} onChange={(sold) => onChange({ [kind]: sold })} />
      );
  }
}

const CONDITION_WORDS: Record<ConditionKind, string> = {
  has: 'they have',
  had: 'they had, and no longer have',
  bought: 'they bought before',
  amount: 'the order comes to at least',
  channel: 'it was sold',
  field: 'a field says',
  any: 'one of several',
};

function firstOf(kind: ConditionKind): Condition {
  switch (kind) {
    case 'has':
      return { has: [] };
    case 'had':
      return { had: [] };
    case 'bought':
      return { bought: { of: {}, atMost: 0 } };
    case 'amount':
      return { amount: { atLeast: '300.00' } };
    case 'channel':
      return { channel: 'shop' };
    case 'field':
      return { field: { name: '', is: '' } };
    case 'any':
      return { any: [{ has: [] }, { has: [] }] };
  }
}

/** Conditions of which all must hold. */
export function ConditionsEditor({
  conditions,
  known,
  onChange,
  together = 'and',
}: {
  conditions: Condition[];
  known: Known;
  onChange: (conditions: Condition[]) => void;
  together?: 'and' | 'or';
}) {
  const set = (at: number, condition: Condition) =>
    onChange(conditions.map((one, index) => (index === at ? condition : one)));
  return (
    <div className="grid gap-2">
      <ul className="grid gap-2">
        {conditions.map((condition, at) => (
          // conditions have no ids; they are known by their place
          <li key={at} className="grid gap-2 border-l-[3px] border-line pl-3">
            <ConditionEditor condition={condition} known={known} onChange={(next) => set(at, next)} />
            <Button
              small
              type="button"
              className="justify-self-start"
              onClick={() => onChange(conditions.filter((_, index) => index !== at))}
            >
              Take this out
            </Button>
          </li>
        ))}
      </ul>
      <Button
        small
        type="button"
        className="justify-self-start"
        onClick={() => onChange([...conditions, { has: [] }])}
      >
        {conditions.length === 0 ? 'Add a condition' : `${together} …`}
      </Button>
    </div>
  );
}

function ConditionEditor({
  condition,
  known,
  onChange,
}: {
  condition: Condition;
  known: Known;
  onChange: (condition: Condition) => void;
}) {
  const negated = condition.not !== undefined;
  const inner = condition.not ?? condition;
  const kind = kindOfCondition(inner);
  const put = (next: Condition) => onChange(negated ? { not: next } : next);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <Select
          aria-label="Whether"
          value={negated ? 'not' : 'is'}
          onChange={(event) => onChange(event.target.value === 'not' ? { not: inner } : inner)}
        >
          <option value="is">it is so:</option>
          <option value="not">it is not so:</option>
        </Select>
        <Select
          aria-label="What is asked"
          value={kind}
          onChange={(event) => put(firstOf(event.target.value as ConditionKind))}
        >
          {Object.entries(CONDITION_WORDS).map(([one, words]) => (
            <option key={one} value={one}>
              {words}
            </option>
          ))}
        </Select>
      </div>
      <ConditionParts condition={inner} known={known} onChange={put} />
    </>
  );
}

function ConditionParts({
  condition,
  known,
  onChange,
}: {
  condition: Condition;
  known: Known;
  onChange: (condition: Condition) => void;
}) {
  const kind = kindOfCondition(condition);
  switch (kind) {
    case 'has':
    case 'had':
      return (
        <TargetsEditor
          chosen={targets(condition[kind])}
          known={known}
          onChange={(chosen) => onChange({ [kind]: chosen })}
        />
      );
    case 'bought': {
      const bought = condition.bought ?? { of: {}, atMost: 0 };
      return (
        <>
          <SoldEditor
            sold={bought.of}
            known={known}
            onChange={(of) => onChange({ bought: { ...bought, of } })}
          />
          <div className="flex flex-wrap items-center gap-2">
            <HowOften bought={bought} onChange={(next) => onChange({ bought: next })} />
            <Select
              aria-label="What counts as bought"
              value={bought.counts ?? 'paid'}
              onChange={(event) => {
                const counts = event.target.value as 'placed' | 'paid' | 'kept';
                const rest = without(bought, 'counts');
                onChange({ bought: counts === 'paid' ? rest : { ...rest, counts } });
              }}
            >
              <option value="placed">ordered, paid or not</option>
              <option value="paid">paid</option>
              <option value="kept">paid and not given back</option>
            </Select>
          </div>
          <p className="text-soft">The order at hand does not count, nor what was bought after it.</p>
        </>
      );
    }
    case 'amount':
      return (
        <span className="flex items-center gap-2">
          <Input
            aria-label="Amount"
            className="w-28"
            inputMode="decimal"
            value={condition.amount?.atLeast ?? ''}
            onChange={(event) => onChange({ amount: { atLeast: event.target.value } })}
          />
          {known.names.currency}
        </span>
      );
    case 'channel':
      return (
        <Select
          aria-label="Where it was sold"
          value={condition.channel}
          onChange={(event) => onChange({ channel: event.target.value as 'shop' | 'hand' })}
        >
          <option value="shop">in a shop</option>
          <option value="hand">by hand</option>
        </Select>
      );
    case 'field':
      return (
        <span className="flex flex-wrap items-center gap-2">
          <Input
            aria-label="Field"
            placeholder="field"
            className="w-36"
            value={condition.field?.name ?? ''}
            onChange={(event) =>
              onChange({ field: { name: event.target.value, is: condition.field?.is ?? '' } })
            }
          />
          says
          <Input
            aria-label="What it says"
            className="w-48"
            value={condition.field?.is ?? ''}
            onChange={(event) =>
              onChange({ field: { name: condition.field?.name ?? '', is: event.target.value } })
            }
          />
        </span>
      );
    case 'any':
      return (
        <ConditionsEditor
          conditions={condition.any ?? []}
          known={known}
          together="or"
          onChange={(any) => onChange({ any })}
        />
      );
  }
}

const MANY = { none: 'none of it', some: 'at least so often', most: 'at most so often' };

function HowOften({
  bought,
  onChange,
}: {
  bought: NonNullable<Condition['bought']>;
  onChange: (bought: NonNullable<Condition['bought']>) => void;
}) {
  const { atLeast, atMost, ...rest } = bought;
  const kind = atMost === 0 ? 'none' : atLeast !== undefined ? 'some' : 'most';
  const number = (value: string) => Math.max(0, Math.min(1_000_000, Math.trunc(Number(value)) || 0));
  return (
    <>
      <Select
        aria-label="How often"
        value={kind}
        onChange={(event) =>
          onChange(
            event.target.value === 'none'
              ? { ...rest, atMost: 0 }
              : event.target.value === 'some'
                ? { ...rest, atLeast: 1 }
                : { ...rest, atMost: 1 },
          )
        }
      >
        {Object.entries(MANY).map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </Select>
      {kind !== 'none' && (
        <Input
          type="number"
          aria-label="Times"
          className="w-20"
          min={kind === 'some' ? 0 : 1}
          value={kind === 'some' ? atLeast : atMost}
          onChange={(event) =>
            onChange(
              kind === 'some'
                ? { ...rest, atLeast: number(event.target.value) }
                : { ...rest, atMost: Math.max(1, number(event.target.value)) },
            )
          }
        />
      )}
    </>
  );
}

/** What a text may leave open, with what stands there then. */
export const PLACEHOLDERS: [name: string, words: string][] = [
  ['person.name', 'their name'],
  ['person.address', 'their address'],
  ['thing.title', 'what it is about'],
  ['order', 'the order’s number'],
  ['until', 'the day on which it ends'],
  ['signIn', 'where they sign in'],
];

/** What a text of a follow-up may leave open. */
export function placeholders(columns: string[], withCode: boolean): [name: string, words: string][] {
  return [
    ...PLACEHOLDERS,
    ...(withCode ? ([['code', 'the discount code']] as [string, string][]) : []),
    ...columns.map((column): [string, string] => [`row.${column}`, `the row’s ${column}`]),
  ];
}

/** A text with the placeholders that can stand in it, offered to be put in where one types. */
export function TextWithPlaceholders({
  label,
  value,
  offered,
  onChange,
}: {
  label: string;
  value: string;
  offered: [name: string, words: string][];
  onChange: (text: string) => void;
}) {
  const [field, setField] = useState<HTMLTextAreaElement | null>(null);
  const put = (name: string) => {
    const at = field?.selectionStart ?? value.length;
    const to = field?.selectionEnd ?? at;
    const text = `{{${name}}}`;
    onChange(value.slice(0, at) + text + value.slice(to));
    requestAnimationFrame(() => {
      field?.focus();
      field?.setSelectionRange(at + text.length, at + text.length);
    });
  };
  return (
    <FieldFrame label={label} hint="Simple Markdown: **bold**, *slanted*, lists, links.">
      {(tied) => (
        <>
          <TextArea
            ref={setField}
            rows={7}
            value={value}
            onChange={(event) => onChange(event.target.value)}
            {...tied}
          />
          <div className="flex flex-wrap gap-1.5" aria-label="Put in where you type">
            {offered.map(([name, words]) => (
              <Button key={name} small type="button" onClick={() => put(name)}>
                {words}
              </Button>
            ))}
          </div>
        </>
      )}
    </FieldFrame>
  );
}

/** A discount code of the person's own. */
export function CodeEditor({
  code,
  known,
  onChange,
}: {
  code: Code | undefined;
  known: Known;
  onChange: (code: Code | undefined) => void;
}) {
  if (code === undefined) {
    return (
      <Button
        small
        type="button"
        className="justify-self-start"
        onClick={() => onChange({ percent: 20, expires: 'P30D', uses: 1 })}
      >
        With a discount code of their own
      </Button>
    );
  }
  const rest = without(code, 'percent', 'amount');
  return (
    <fieldset className="grid gap-2 rounded-box border border-line p-3">
      <legend className="px-1 font-semibold">A discount code of their own</legend>
      <div className="flex flex-wrap items-center gap-2">
        <Input
          aria-label="How much off"
          className="w-24"
          inputMode="decimal"
          value={code.percent ?? code.amount ?? ''}
          onChange={(event) =>
            onChange(
              code.amount === undefined
                ? { ...rest, percent: Number(event.target.value) || 0 }
                : { ...rest, amount: event.target.value },
            )
          }
        />
        <Select
          aria-label="Of what"
          value={code.amount === undefined ? 'percent' : 'amount'}
          onChange={(event) =>
            onChange(
              event.target.value === 'percent' ? { ...rest, percent: 20 } : { ...rest, amount: '10.00' },
            )
          }
        >
          <option value="percent">% off</option>
          <option value="amount">{known.names.currency} off</option>
        </Select>
        <span className="flex items-center gap-2">
          good for{' '}
          <Period value={code.expires ?? 'P30D'} onChange={(expires) => onChange({ ...code, expires })} />
        </span>
      </div>
      <SoldEditor
        sold={code.of ?? {}}
        known={known}
        onChange={(of) => {
          const rest = without(code, 'of');
          onChange(Object.keys(of).length === 0 ? rest : { ...code, of });
        }}
      />
      <p className="text-soft">
        For {soldInWords(code.of ?? {}, known.names)}, once. The shop makes it before the letter goes.
      </p>
      {known.lacking.codes && (
        <Notice>
          No shop that is on makes discount codes: the letter would wait for one, and the run would be held
          up.
        </Notice>
      )}
      <Button small type="button" className="justify-self-start" onClick={() => onChange(undefined)}>
        Without a code
      </Button>
    </fieldset>
  );
}
