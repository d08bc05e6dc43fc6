import { useId, type ReactNode } from 'react';
import { periodInWords, periodParts, UNITS, type Unit } from './periods';
import { Check, Input, Radio, Select } from './inputs';

export type Choice = [value: string, words: string, more?: ReactNode];

interface ChoicesProps {
  legend: string;
  value: string;
  choices: Choice[];
  onChoose: (value: string) => void;
}

export function Choices({ legend, value, choices, onChoose }: ChoicesProps) {
  const name = useId();
  return (
    <fieldset className="grid gap-1.5">
      <legend>{legend}</legend>
      {choices.map(([choice, words, more]) => (
        <Check as="div" key={choice}>
          <Radio
            id={`${name}-${choice}`}
            name={name}
            checked={value === choice}
            onChange={() => onChoose(choice)}
          />
          <label htmlFor={`${name}-${choice}`}>{words}</label>
          {value === choice && more}
        </Check>
      ))}
    </fieldset>
  );
}

export function Period({
  value,
  onChange,
}: {
  value: string | undefined;
  onChange: (period: string) => void;
}) {
  const parts = periodParts(value ?? '');
  const single = parts[0];
  if (single === undefined || value === undefined) return null;
  if (parts.length > 1) return <span>{periodInWords(value)}</span>;
  return (
    <>
      <Input
        type="number"
        className="w-18"
        aria-label="How many"
        min={1}
        max={999}
        value={single.count}
        onChange={(event) => {
          const count = Number(event.target.value);
          if (Number.isInteger(count) && count >= 1 && count <= 999) onChange(`P${count}${single.unit}`);
        }}
      />
      <Select
        className="w-28"
        aria-label="Of what"
        value={single.unit}
        onChange={(event) => onChange(`P${single.count}${event.target.value as Unit}`)}
      >
        {UNITS.map((known) => (
          <option key={known.unit} value={known.unit}>
            {single.count === 1 ? known.one : known.many}
          </option>
        ))}
      </Select>
    </>
  );
}
