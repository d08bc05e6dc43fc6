import { useState } from 'react';
import type { Schemas } from '../api/client';
import { Finder } from '../ui/Finder';
import { matches, useOffer } from '../desk/offer';
import { TargetFinder } from '../desk/TargetFinder';
import { DayField } from '../ui/DayField';
import { become, SORTS, sortOf, type Condition, type Kind } from './conditions';
import { Button, Input, Period, Select } from '../ui/kit';

interface Props {
  condition: Condition;
  onChange: (condition: Condition) => void;
  onRemove: () => void;
}

const COUNTS: Record<NonNullable<Condition['counts']>, string> = {
  ORDERED: 'ordered, paid or not',
  PAID: 'paid',
  PAID_AND_KEPT: 'paid and not given back',
};

/** One condition, as part of a sentence. */
export function ConditionRow({ condition, onChange, onRemove }: Props) {
  const needs = sortOf(condition.kind).needs;
  const set = (more: Partial<Condition>) => onChange({ ...condition, ...more });
  return (
    <li className="flex flex-wrap items-center gap-2 border-l-[3px] border-line pl-3 [&>:last-child]:ml-auto">
      <Select
        aria-label="What is so"
        value={(condition.not ? '!' : '') + condition.kind}
        onChange={(event) => {
          const not = event.target.value.startsWith('!');
          onChange(become(condition, event.target.value.replace('!', '') as Kind, not));
        }}
      >
        {SORTS.flatMap((sort) => [
          <option key={sort.kind} value={sort.kind}>
            {sort.is}
          </option>,
          <option key={`!${sort.kind}`} value={`!${sort.kind}`}>
            {sort.isNot}
          </option>,
        ])}
      </Select>
      {needs.includes('target') && (
        <Chosen
          path={condition.target}
          onClear={() =>
            onChange(become({ kind: condition.kind, not: condition.not }, condition.kind, condition.not))
          }
          onChoose={(target) => set({ target: target.target })}
        />
      )}
      {needs.includes('course') && (
        <CourseChoice course={condition.course} onChoose={(course) => set({ course })} />
      )}
      {needs.includes('products') && (
        <Bought
          products={condition.products ?? []}
          categories={condition.categories ?? []}
          onChange={(products, categories) => set({ products, categories })}
        />
      )}
      {needs.includes('counts') && (
        <Select
          aria-label="What counts as bought"
          value={condition.counts}
          onChange={(event) => set({ counts: event.target.value as NonNullable<Condition['counts']> })}
        >
          {Object.entries(COUNTS).map(([counts, words]) => (
            <option key={counts} value={counts}>
              {words}
            </option>
          ))}
        </Select>
      )}
      {needs.includes('within') && (
        <span className="inline-flex items-center gap-1.5">
          within <Period value={condition.within} onChange={(within) => set({ within })} />
        </span>
      )}
      {needs.includes('days') && (
        <>
          <DayField inline label="from" value={condition.from ?? ''} onChange={(from) => set({ from })} />
          <DayField inline label="to" value={condition.to ?? ''} onChange={(to) => set({ to })} />
          {(condition.from ?? '') === '' || (condition.to ?? '') === '' ? (
            <span className="text-warning">both days are needed: when the first of them was bought</span>
          ) : null}
        </>
      )}
      {needs.includes('words') && (
        <Input
          aria-label="Part of their name or address"
          placeholder="Part of their name or address"
          value={condition.words ?? ''}
          maxLength={200}
          onChange={(event) => set({ words: event.target.value })}
        />
      )}
      <Button small aria-label="Take this condition out" onClick={onRemove}>
        Take out
      </Button>
    </li>
  );
}

interface ChosenProps {
  path: string | undefined;
  onClear: () => void;
  onChoose: (target: Schemas['OfferedTarget']) => void;
}

/** A target that was chosen, or the way to find one. */
function Chosen({ path, onClear, onChoose }: ChosenProps) {
  const offer = useOffer();
  if (path === undefined) {
    return <TargetFinder label="What" placeholder="Course, tag, level, area …" onChoose={onChoose} />;
  }
  const target = offer?.targets.find((one) => one.target === path);
  return (
    <Button small aria-label={`Something else than ${target?.title ?? path}`} onClick={onClear}>
      {target?.title ?? path} {target !== undefined && <span className="text-soft">{target.sort}</span>} ×
    </Button>
  );
}

function CourseChoice({
  course,
  onChoose,
}: {
  course: string | undefined;
  onChoose: (course: string) => void;
}) {
  const courses = (useOffer()?.targets ?? []).filter((target) => target.sort === 'course');
  return (
    <Select aria-label="Which course" value={course ?? ''} onChange={(event) => onChoose(event.target.value)}>
      <option value="" disabled>
        which course?
      </option>
      {courses.map((one) => (
        <option key={one.target} value={one.target.replace('course/', '')}>
          {one.title}
        </option>
      ))}
    </Select>
  );
}

interface BoughtProps {
  products: string[];
  categories: string[];
  onChange: (products: string[], categories: string[]) => void;
}

/** Something that can be bought: one product, or anything of a category, also what it gets later. */
interface Buyable {
  id: string;
  category: boolean;
  title: string;
}

/** Several things of which one is enough. */
function Bought({ products, categories, onChange }: BoughtProps) {
  const offer = useOffer();
  const [words, setWords] = useState('');
  const sold = offer?.products ?? [];
  const all: Buyable[] = [
    ...[...new Set(sold.flatMap((product) => product.categories))].map((category) => ({
      id: category,
      category: true,
      title: `anything of ${category}`,
    })),
    ...sold.map(({ id, title }) => ({ id, category: false, title })),
  ];
  const isChosen = ({ id, category }: Buyable) => (category ? categories : products).includes(id);
  const chosen: Buyable[] = [
    ...categories.map((id) => ({ id, category: true, title: `anything of ${id}` })),
    ...products.map((id) => ({
      id,
      category: false,
      title: sold.find((product) => product.id === id)?.title ?? id,
    })),
  ];
  const without = ({ id, category }: Buyable) =>
    category
      ? onChange(
          products,
          categories.filter((other) => other !== id),
        )
      : onChange(
          products.filter((other) => other !== id),
          categories,
        );
  return (
    <>
      {chosen.map((one, at) => (
        <span key={`${one.category}/${one.id}`}>
          {at > 0 && 'or '}
          <Button small aria-label={`Without ${one.title}`} onClick={() => without(one)}>
            {one.title} ×
          </Button>
        </span>
      ))}
      <Finder
        label="Which product"
        placeholder={chosen.length === 0 ? 'Which product or category?' : 'or another'}
        words={words}
        onWords={setWords}
        found={all.filter((one) => !isChosen(one) && matches(words, one.title, one.id)).slice(0, 8)}
        idOf={(one) => `${one.category}/${one.id}`}
        show={(one) => one.title}
        onChoose={({ id, category }) =>
          category ? onChange(products, [...categories, id]) : onChange([...products, id], categories)
        }
        nothing="Nothing is called that."
      />
    </>
  );
}
