import { useState } from 'react';
import { DayField } from '../ui/DayField';
import { idFor, type Section } from './things';
import { Acts, Button, Check, Checkbox, Input, Select, TextButton } from '../ui/kit';

export function Day({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | undefined;
  onChange: (time: string) => void;
}) {
  return (
    <DayField
      bare
      label={label}
      value={value?.slice(0, 10) ?? ''}
      onChange={(day) => {
        if (day !== '') onChange(`${day}T00:00:00`);
      }}
    />
  );
}

/** A whole number of zero or more. */
export function Count({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (count: number) => void;
}) {
  return (
    <Input
      type="number"
      className="w-18"
      aria-label={label}
      min={0}
      max={999}
      value={value}
      onChange={(event) => {
        const count = Number(event.target.value);
        if (event.target.value !== '' && Number.isInteger(count) && count >= 0 && count <= 999)
          onChange(count);
      }}
    />
  );
}

interface TicksProps {
  legend: string;
  options: [value: string, words: string][];
  ticked: string[];
  onChange: (ticked: string[]) => void;
}

export function Ticks({ legend, options, ticked, onChange }: TicksProps) {
  return (
    <fieldset>
      <legend>{legend}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1.5">
        {options.map(([value, words]) => (
          <Check key={value}>
            <Checkbox
              checked={ticked.includes(value)}
              onChange={(event) =>
                onChange(event.target.checked ? [...ticked, value] : ticked.filter((one) => one !== value))
              }
            />
            {words}
          </Check>
        ))}
      </div>
    </fieldset>
  );
}

interface RowsProps {
  legend: string;
  hint?: string;
  addWords: string;
  rows: Section[];
  /** Where each row has a tier. */
  tiers?: string[];
  onChange: (rows: Section[]) => void;
}

/** A short list in an order: options of a product, sections of a course, the school's tiers. */
export function Rows({ legend, hint, addWords, rows, tiers, onChange }: RowsProps) {
  const [title, setTitle] = useState('');
  const add = () => {
    const name = title.trim();
    if (name === '') return;
    onChange([...rows, { id: idFor(name, (taken) => rows.some((row) => row.id === taken)), title: name }]);
    setTitle('');
  };
  return (
    <fieldset>
      <legend>{legend}</legend>
      <ol className="grid gap-1 [&>li]:flex [&>li]:flex-wrap [&>li]:items-center [&>li]:gap-2">
        {rows.map((row) => (
          <li key={row.id}>
            {row.title ?? row.id} {row.title !== undefined && <code>{row.id}</code>}
            {tiers !== undefined && tiers.length > 0 && (
              <Select
                aria-label={`Tier of ${row.title ?? row.id}`}
                value={row.tier ?? tiers[0]}
                onChange={(event) =>
                  onChange(
                    rows.map((one) => (one.id === row.id ? { ...one, tier: event.target.value } : one)),
                  )
                }
              >
                {tiers.map((tier) => (
                  <option key={tier}>{tier}</option>
                ))}
              </Select>
            )}
            <TextButton
              className="min-h-[26px]"
              aria-label={`Take ${row.title ?? row.id} out`}
              onClick={() => onChange(rows.filter((one) => one.id !== row.id))}
            >
              take out
            </TextButton>
          </li>
        ))}
      </ol>
      <Acts className="items-center">
        <Input
          aria-label={addWords}
          maxLength={200}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') add();
          }}
        />
        <Button small disabled={title.trim() === ''} onClick={add}>
          {addWords}
        </Button>
        {hint !== undefined && <span className="text-soft">{hint}</span>}
      </Acts>
    </fieldset>
  );
}
