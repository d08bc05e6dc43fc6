import { useEffect, useId, useRef, type ReactNode } from 'react';
import { useSession } from '../session/session';
import { dayOf } from '../ui/dates';
import {
  isBought,
  heldInWords,
  inWords,
  periodInWords,
  periodParts,
  UNITS,
  type Opener,
  type Terms,
  type Unit,
} from './terms';

interface Props {
  title: string;
  opener: Opener;
  /** Of what is opened. */
  targetSort: string;
  tiers: string[];
  terms: Terms;
  onChange: (terms: Terms) => void;
  onClose: () => void;
}

/** Edits the terms of the selected cells; each change goes into the draft at once. */
export function TermsEditor({ title, opener, targetSort, tiers, terms, onChange, onClose }: Props) {
  const { zone } = useSession();
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector<HTMLElement>('input:checked')?.focus(), []);
  const bought = isBought(opener.sort);
  const today = dayOf(new Date(), zone);
  const parted = targetSort === 'course' || targetSort === 'category';
  return (
    // Escape and Enter close it from wherever in it one is
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <form
      ref={form}
      className="terms"
      aria-label={`Terms: ${title}`}
      onSubmit={(event) => {
        event.preventDefault();
        onClose();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
      }}
    >
      <h2>{title}</h2>
      <Choices
        legend="Open for how long?"
        value={terms.length === 'held' ? 'held' : 'for'}
        onChoose={(to) => onChange({ ...terms, length: to === 'held' ? 'held' : 'P1Y' })}
        choices={[
          ['held', heldInWords(opener)],
          [
            'for',
            'for',
            <Period key="for" value={terms.length} onChange={(length) => onChange({ ...terms, length })} />,
          ],
        ]}
      />
      {bought && (
        <Choices
          legend="When the money is given back"
          value={terms.refund}
          onChoose={(refund) => onChange({ ...terms, refund })}
          choices={[
            ['end', 'it closes'],
            ['keep', 'it stays open'],
          ]}
        />
      )}
      <details open={isMore(terms)}>
        <summary>More: from when, until when, again, which part, for whom</summary>
        <Choices
          legend="From when?"
          value={terms.starts?.after !== undefined ? 'after' : terms.starts?.at !== undefined ? 'at' : 'once'}
          onChoose={(to) =>
            onChange(
              left(
                terms,
                'starts',
                to === 'after'
                  ? { after: 'P3D' }
                  : to === 'at'
                    ? { at: `${today.toString()}T00:00:00` }
                    : undefined,
              ),
            )
          }
          choices={[
            ['once', 'at once'],
            [
              'after',
              'later by',
              <Period
                key="after"
                value={terms.starts?.after}
                onChange={(after) => onChange({ ...terms, starts: { after } })}
              />,
            ],
            [
              'at',
              'not before',
              <Day
                key="at"
                label="The first day"
                value={terms.starts?.at}
                onChange={(at) => onChange({ ...terms, starts: { at } })}
              />,
            ],
          ]}
        />
        <Choices
          legend="Until when, at the latest?"
          value={terms.until === undefined ? 'open' : 'until'}
          onChoose={(to) =>
            onChange(
              left(
                terms,
                'until',
                to === 'until' ? `${today.add({ years: 1 }).toString()}T00:00:00` : undefined,
              ),
            )
          }
          choices={[
            ['open', 'no such day'],
            [
              'until',
              'closed from',
              <Day
                key="until"
                label="Closed from this day"
                value={terms.until}
                onChange={(until) => onChange({ ...terms, until })}
              />,
            ],
          ]}
        />
        {bought && terms.length !== 'held' && (
          <Choices
            legend="And when it comes again meanwhile?"
            value={terms.repeat ?? 'overlap'}
            onChoose={(to) => onChange(left(terms, 'repeat', to === 'extend' ? to : undefined))}
            choices={[
              ['overlap', 'it counts from then, beside the first'],
              ['extend', 'its time is added at the end'],
            ]}
          />
        )}
        {parted && tiers.length > 0 && (
          <Choices
            legend="Which part?"
            value={terms.tier ?? ''}
            onChoose={(to) => onChange(left(terms, 'tier', to === '' ? undefined : to))}
            choices={[['', 'all sections'], ...tiers.map((tier): Choice => [tier, `up to ${tier}`])]}
          />
        )}
        {bought && terms.refund === 'end' && (
          <label className="check">
            closes once
            <input
              type="number"
              className="input input-count"
              min={1}
              max={100}
              value={Math.round((terms.refundShare ?? 1) * 100)}
              onChange={(event) => {
                const share = Number(event.target.value);
                if (share >= 1 && share <= 100)
                  onChange(left(terms, 'refundShare', share === 100 ? undefined : share / 100));
              }}
            />
            % of what was paid is given back
          </label>
        )}
        <Choices
          legend="For whom?"
          value={terms.applies?.from === undefined ? 'all' : 'new'}
          onChoose={(to) =>
            onChange(
              left(
                terms,
                'applies',
                to === 'new' ? { from: new Date().toISOString(), afterwards: 'run-out' } : undefined,
              ),
            )
          }
          choices={[
            ['all', bought ? 'past buyers too' : 'everybody who has it'],
            ['new', bought ? 'purchases from now on only' : 'whoever gets it from now on'],
          ]}
        />
      </details>
      <p className="soft">
        {bought
          ? 'Counted from the payment, in the school’s time zone; an order of nothing counts as paid.'
          : 'Counted from when it begins to be held, in the school’s time zone.'}{' '}
        So: open {inWords(terms, opener)}.
      </p>
      <button className="btn btn-sm">
        Done <kbd>Enter</kbd>
      </button>
    </form>
  );
}

function isMore(terms: Terms): boolean {
  return [terms.starts, terms.until, terms.repeat, terms.tier, terms.applies, terms.refundShare].some(
    (part) => part !== undefined,
  );
}

/** The terms with one part set, or left out. */
function left<Key extends keyof Terms>(terms: Terms, key: Key, value: Terms[Key] | undefined): Terms {
  const rest = Object.fromEntries(Object.entries(terms).filter(([part]) => part !== key));
  return (value === undefined ? rest : { ...rest, [key]: value }) as Terms;
}

type Choice = [value: string, words: string, more?: ReactNode];

interface ChoicesProps {
  legend: string;
  value: string;
  choices: Choice[];
  onChoose: (value: string) => void;
}

function Choices({ legend, value, choices, onChoose }: ChoicesProps) {
  const name = useId();
  return (
    <fieldset>
      <legend>{legend}</legend>
      {choices.map(([choice, words, more]) => (
        <div className="check" key={choice}>
          <input
            id={`${name}-${choice}`}
            type="radio"
            className="radio"
            name={name}
            checked={value === choice}
            onChange={() => onChoose(choice)}
          />
          <label htmlFor={`${name}-${choice}`}>{words}</label>
          {value === choice && more}
        </div>
      ))}
    </fieldset>
  );
}

function Period({ value, onChange }: { value: string | undefined; onChange: (period: string) => void }) {
  const parts = periodParts(value ?? '');
  const single = parts[0];
  if (single === undefined || value === undefined) return null;
  if (parts.length > 1) return <span>{periodInWords(value)}</span>;
  return (
    <>
      <input
        type="number"
        className="input input-count"
        aria-label="How many"
        min={1}
        max={999}
        value={single.count}
        onChange={(event) => {
          const count = Number(event.target.value);
          if (Number.isInteger(count) && count >= 1 && count <= 999) onChange(`P${count}${single.unit}`);
        }}
      />
      <select
        className="select"
        aria-label="Of what"
        value={single.unit}
        onChange={(event) => onChange(`P${single.count}${event.target.value as Unit}`)}
      >
        {UNITS.map((known) => (
          <option key={known.unit} value={known.unit}>
            {single.count === 1 ? known.one : known.many}
          </option>
        ))}
      </select>
    </>
  );
}

function Day({
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
