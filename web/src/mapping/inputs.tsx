import { useState } from 'react';
import { idFor, type Section } from './things';

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
    <input
      type="date"
      className="input"
      aria-label={label}
      value={value?.slice(0, 10) ?? ''}
      onChange={(event) => {
        if (event.target.value !== '') onChange(`${event.target.value}T00:00:00`);
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
    <input
      type="number"
      className="input input-count"
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
      <div className="ticks">
        {options.map(([value, words]) => (
          <label key={value} className="check">
            <input
              type="checkbox"
              className="checkbox"
              checked={ticked.includes(value)}
              onChange={(event) =>
                onChange(event.target.checked ? [...ticked, value] : ticked.filter((one) => one !== value))
              }
            />
            {words}
          </label>
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
      <ol className="texts">
        {rows.map((row) => (
          <li key={row.id}>
            {row.title ?? row.id} {row.title !== undefined && <code>{row.id}</code>}
            {tiers !== undefined && tiers.length > 0 && (
              <select
                className="select"
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
              </select>
            )}
            <button
              className="link"
              aria-label={`Take ${row.title ?? row.id} out`}
              onClick={() => onChange(rows.filter((one) => one.id !== row.id))}
            >
              take out
            </button>
          </li>
        ))}
      </ol>
      <div className="acts acts-line">
        <input
          className="input"
          aria-label={addWords}
          maxLength={200}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') add();
          }}
        />
        <button className="btn btn-sm" disabled={title.trim() === ''} onClick={add}>
          {addWords}
        </button>
        {hint !== undefined && <span className="soft">{hint}</span>}
      </div>
    </fieldset>
  );
}
