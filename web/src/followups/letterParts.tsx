import { useState } from 'react';
import { without } from '../mapping/things';
import { Button, FieldFrame, Input, Notice, Period, Select, TextArea } from '../ui/kit';
import type { Code } from './model';
import { SoldEditor, type Known } from './parts';
import { soldInWords } from './words';

/** What a text may leave open, with what stands there then. */
const PLACEHOLDERS: [name: string, words: string][] = [
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
