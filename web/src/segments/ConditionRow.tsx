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
        <Products products={condition.products ?? []} onChange={(products) => set({ products })} />
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

function Products({ products, onChange }: { products: string[]; onChange: (products: string[]) => void }) {
  const offer = useOffer();
  const [words, setWords] = useState('');
  const titleOf = (id: string) => offer?.products.find((one) => one.id === id)?.title ?? id;
  return (
    <>
      {products.map((id, at) => (
        <span key={id}>
          {at > 0 && 'or '}
          <Button
            small
            aria-label={`Without ${titleOf(id)}`}
            onClick={() => onChange(products.filter((other) => other !== id))}
          >
            {titleOf(id)} ×
          </Button>
        </span>
      ))}
      <Finder
        label="Which product"
        placeholder={products.length === 0 ? 'Which product?' : 'or another'}
        words={words}
        onWords={setWords}
        found={(offer?.products ?? [])
          .filter((product) => !products.includes(product.id) && matches(words, product.title, product.id))
          .slice(0, 8)}
        idOf={(product) => product.id}
        show={(product) => product.title}
        onChoose={(product) => onChange([...products, product.id])}
        nothing="No product is called that."
      />
    </>
  );
}
