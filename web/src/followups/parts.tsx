import { useState } from 'react';
import { matches } from '../desk/offer';
import { all, type Things, without } from '../mapping/things';
import type { Draft } from '../mapping/draft';
import { Finder } from '../ui/Finder';
import { Button, Check, Checkbox, Period, Select } from '../ui/kit';
import {
  kindOfWhen,
  sortOfTarget,
  targets,
  type Sold,
  type Target,
  type Turn,
  type When,
  type WhenKind,
} from './model';
import { kindInWords, TURN_WORDS, targetInWords, type Names } from './words';

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
